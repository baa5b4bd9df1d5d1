package jandrel.core.decide;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.Insider;
import jandrel.core.item.Inside;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.UnreadableItem;
import jandrel.core.policy.Handling;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/**
 * Decides. A pure function of its arguments: no clock, no I/O, no memory. Live capture, rehearsal and reconsidering all call it, so
 * that a timeline never depends on the order in which things became known.
 */
public final class Decider {
    private static final UUID NOBODY = new UUID(0, 0);
    private final Item item;
    private final SourceContext vantage;
    private final Policy policy;
    private final DirectorySlice slice;

    private Decider(Item item, SourceContext vantage, Policy policy, DirectorySlice slice) {
        this.item = item;
        this.vantage = vantage;
        this.policy = policy;
        this.slice = slice;
    }

    public static Decision decide(Item item, SourceContext vantage, Policy policy, DirectorySlice slice) {
        if (item instanceof UnreadableItem unreadable) {
            return unreadable(unreadable.reason());
        }
        return new Decider(item, vantage, policy, slice).decide();
    }

    /** The decision on what cannot be read, or handled. */
    public static Decision unreadable(String why) {
        return Decision.without(Verdict.UNREADABLE, List.of(Reason.of(Rule.UNREADABLE, "why", why)));
    }

    /** The decision on an item that its source no longer shows, and of which nothing is kept. */
    public static Decision gone() {
        return Decision.without(Verdict.LEFT_OUT, List.of(Reason.of(Rule.GONE)));
    }

    /** The decision on what a person's source shows while no policy has that person. */
    public static Decision notCovered() {
        return Decision.without(Verdict.LEFT_OUT, List.of(Reason.of(Rule.NOT_COVERED)));
    }

    private Decision decide() {
        Optional<Reason> out = keptOut().or(this::switchedOff).or(this::endedOrVanished);
        if (out.isEmpty() && !countsByHand()) {
            out = byItself();
        }
        if (out.isPresent()) {
            return Decision.without(Verdict.LEFT_OUT, List.of(out.get()));
        }
        // what somebody keeps out of their own mail they can also let in again, message by message
        Optional<Exclusion> exclusion =
                slice.exclusions().covering(item, policy.id(), countsByHand() ? NOBODY : vantage.person());
        if (exclusion.isPresent()) {
            return Decision.excluded(exclusion.get().id(), List.of(excluded(exclusion.get())));
        }
        return amongPeople();
    }

    private Optional<Reason> keptOut() {
        return vantage.hand().choice() == ManualOverride.Choice.KEEP_OUT
                ? Optional.of(Reason.of(
                        Rule.KEPT_OUT_BY_HAND, "keyword", vantage.hand().by()))
                : Optional.empty();
    }

    private boolean countsByHand() {
        return vantage.hand().choice() == ManualOverride.Choice.COUNT;
    }

    /** What a choice by hand does not change. */
    private Optional<Reason> endedOrVanished() {
        return coverEnded().or(this::vanished).or(this::ofASort);
    }

    /** What the rules say of it where nobody chose by hand. */
    private Optional<Reason> byItself() {
        return tooOld().or(this::carriesMeeting).or(this::notByAPerson);
    }

    private Optional<Reason> switchedOff() {
        if (item instanceof MailItem mail) {
            return mailOff(mail);
        }
        if (countsByHand()) {
            // somebody made it here
            return Optional.empty();
        }
        return policy.scope().meetings().comesIn() ? Optional.empty() : Optional.of(Reason.of(Rule.MEETINGS_OFF));
    }

    private Optional<Reason> mailOff(MailItem mail) {
        if (policy.scope().received() && policy.scope().sent()) {
            return Optional.empty();
        }
        if (!policy.scope().anyMail()) {
            return Optional.of(Reason.of(Rule.MAIL_OFF));
        }
        boolean ours = slice.isInside(mail.parties().get(0).address());
        if (ours && !policy.scope().sent()) {
            return Optional.of(Reason.of(Rule.SENT_OFF));
        }
        return !ours && !policy.scope().received() ? Optional.of(Reason.of(Rule.RECEIVED_OFF)) : Optional.empty();
    }

    private Optional<Reason> tooOld() {
        Instant end = item instanceof MeetingItem meeting ? meeting.ends() : item.at();
        return end.isBefore(vantage.since())
                ? Optional.of(Reason.of(Rule.TOO_OLD, "since", day(vantage.since())))
                : Optional.empty();
    }

    private Optional<Reason> coverEnded() {
        Instant until = vantage.until();
        return until != null && !item.at().isBefore(until)
                ? Optional.of(Reason.of(Rule.COVER_ENDED, "until", day(until)))
                : Optional.empty();
    }

    private static String day(Instant at) {
        return at.toString().substring(0, 10);
    }

    private Optional<Reason> vanished() {
        if (isCancelled() && policy.handling().cancelled() == Handling.Vanished.REMOVE) {
            return Optional.of(Reason.of(Rule.CANCELLED));
        }
        return vantage.gone() && deleted() == Handling.Vanished.REMOVE
                ? Optional.of(Reason.of(Rule.GONE))
                : Optional.empty();
    }

    private Handling.Vanished deleted() {
        return item instanceof MailItem
                ? policy.handling().deletedMail()
                : policy.handling().deleted();
    }

    private boolean isCancelled() {
        return item instanceof MeetingItem meeting && meeting.state() == MeetingItem.State.CANCELLED;
    }

    private Optional<Reason> ofASort() {
        if (!(item instanceof MeetingItem meeting)) {
            return Optional.empty();
        }
        if (isPrivate() && policy.handling().privateItems() == Handling.Private.LEAVE_OUT) {
            return Optional.of(Reason.of(Rule.PRIVATE_OFF));
        }
        return meeting.recurrence() != null && policy.handling().series() == Handling.Series.LEAVE_OUT
                ? Optional.of(Reason.of(Rule.SERIES_OFF))
                : Optional.empty();
    }

    /** An invitation or an answer to one belongs to the meeting, not beside it, where the meeting itself is captured. */
    private Optional<Reason> carriesMeeting() {
        return item instanceof MailItem mail
                        && mail.inside().meeting() != null
                        && vantage.calendar()
                        && policy.scope().meetings().comesIn()
                ? Optional.of(Reason.of(
                        Rule.CARRIES_MEETING,
                        "method",
                        mail.inside().meeting().method().toLowerCase(Locale.ROOT)))
                : Optional.empty();
    }

    private Optional<Reason> notByAPerson() {
        if (!(item instanceof MailItem mail)) {
            return Optional.empty();
        }
        Nature nature = mail.nature();
        return switch (nature.kind()) {
            case ORDINARY -> Optional.empty();
            case AUTOMATIC -> Optional.of(Reason.of(Rule.AUTOMATIC, "header", nature.evidence()));
            case AUTO_REPLY -> Optional.of(Reason.of(Rule.AUTO_REPLY, "header", nature.evidence()));
            case BULK -> Optional.of(Reason.of(Rule.BULK, "header", nature.evidence()));
            case LIST -> Optional.of(Reason.of(Rule.LIST, "header", nature.evidence()));
            case BOUNCE -> Optional.of(Reason.of(Rule.BOUNCE, "header", nature.evidence()));
        };
    }

    private static Reason excluded(Exclusion e) {
        if (e.limits().person() != null) {
            // what somebody keeps out of their own mail is nobody else's to read
            return Reason.of(Rule.EXCLUDED, "kind", "own");
        }
        String what = e.what().startsWith("@") ? e.what().substring(1) : e.what();
        return Reason.of(Rule.EXCLUDED, "exclusion", what, "kind", e.kind().word(), "reason", e.reason());
    }

    private Decision amongPeople() {
        Set<UUID> insiders = new LinkedHashSet<>();
        Set<EmailAddress> outsiders = new LinkedHashSet<>();
        // hardly any mail has some
        Set<EmailAddress> blind = Set.of();
        int ours = 0;
        OwnPart part = OwnPart.UNNAMED;
        boolean organised = false;
        for (Party party : item.parties()) {
            organised |= party.part() == Party.Part.ORGANISER;
            if (!party.isPerson()) {
                continue;
            }
            if (slice.isInside(party.address())) {
                ours++;
                Optional<Insider> person = slice.insider(party.address());
                if (person.isPresent()) {
                    insiders.add(person.get().id());
                    part = person.get().id().equals(vantage.person()) ? clearer(part, party.part()) : part;
                }
            } else if (party.part() == Party.Part.BCC) {
                blind = blind.isEmpty() ? new LinkedHashSet<>() : blind;
                blind.add(party.address());
            } else {
                outsiders.add(party.address());
            }
        }
        if (!blind.isEmpty()) {
            blind.removeAll(outsiders);
            outsiders.addAll(blind);
        }
        if (item instanceof MeetingItem && !organised) {
            // a meeting that names no organiser is the one's in whose calendar it stands (RFC 5545 §3.8.4.3)
            part = OwnPart.AUTHOR;
        }
        List<Reason> trail = new ArrayList<>(4);
        byHand(trail);
        forwarded(trail, outsiders);
        if (outsiders.isEmpty() && slice.pins(item.identity(), vantage.person()).isEmpty()) {
            return Decision.without(Verdict.LEFT_OUT, List.of(Reason.of(ours <= 1 ? Rule.ALONE : Rule.INSIDE_ONLY)));
        }
        Matching matching = match(insiders, outsiders);
        List<Link> links = matching.links();
        if (blind.isEmpty()) {
            trail.addAll(matching.trail());
        } else {
            // what would follow without the blind copies is what others than the sender may know
            Set<EmailAddress> open = new LinkedHashSet<>(outsiders);
            open.removeAll(blind);
            Matching openly = match(insiders, open);
            Set<Reason> known = Set.copyOf(openly.trail());
            matching.trail().forEach(r -> trail.add(known.contains(r) ? r : r.asBlind()));
            Set<Link> seen = Set.copyOf(openly.links());
            links = links.stream().map(l -> seen.contains(l) ? l : l.asBlind()).toList();
        }
        Sharing sharing = sharing();
        UUID team = sharing == Sharing.TEAM ? vantage.team() : null;
        if (links.isEmpty()) {
            trail.add(Reason.of(Rule.NOBODY_MATCHED));
            return new Decision(Verdict.WAITING, trail, List.of(), sharing, insiders, team, null, part);
        }
        if (vantage.hand().choice() == ManualOverride.Choice.UNPROVEN
                && slice.pins(item.identity(), vantage.person()).isEmpty()) {
            trail.add(Reason.of(Rule.UNPROVEN));
            return new Decision(Verdict.WAITING, trail, List.of(), sharing, insiders, team, null, part);
        }
        marks(trail);
        trail.add(Reason.of(ruleOf(sharing)));
        return new Decision(Verdict.LOGGED, trail, links, sharing, insiders, team, null, part);
    }

    private Matching match(Set<UUID> insiders, Set<EmailAddress> outsiders) {
        Matching matching = new Matching(slice, item, vantage.person(), insiders, policy.ties());
        outsiders.forEach(matching::match);
        matching.pinsAndOpportunities();
        return matching;
    }

    private static OwnPart clearer(OwnPart known, Party.Part part) {
        OwnPart is = switch (part) {
            case FROM, ORGANISER -> OwnPart.AUTHOR;
            case BCC -> OwnPart.BLIND;
            case SENDER, REPLY_TO -> OwnPart.UNNAMED;
            default -> OwnPart.NAMED;
        };
        return is.compareTo(known) < 0 ? is : known;
    }

    private void byHand(List<Reason> trail) {
        if (!countsByHand()) {
            return;
        }
        String by = vantage.hand().by();
        if (item instanceof MeetingItem) {
            trail.add(Reason.of(Rule.MADE_HERE));
            return;
        }
        trail.add(byItself()
                .map(otherwise ->
                        Reason.of(Rule.COUNTED_DESPITE, "by", by, "otherwise", Sentences.heading(otherwise.rule())))
                .orElse(Reason.of(Rule.COUNTED_BY_HAND, "by", by)));
    }

    private void forwarded(List<Reason> trail, Set<EmailAddress> outsiders) {
        Inside.Forwarded inner = item instanceof MailItem mail ? mail.inside().forwarded() : null;
        if (inner == null || slice.isInside(inner.from())) {
            return;
        }
        boolean counts = policy.ties().forwarded();
        trail.add(Reason.of(
                counts ? Rule.FORWARDED_COUNTS : Rule.FORWARDED,
                "author",
                inner.from().toString()));
        if (counts) {
            outsiders.add(inner.from());
        }
    }

    private void marks(List<Reason> trail) {
        if (item instanceof MailItem mail && mail.inside().cut()) {
            trail.add(Reason.of(Rule.CUT_SHORT));
        }
        if (item instanceof MeetingItem meeting) {
            if (meeting.zone().equals(MeetingItem.UNKNOWN_ZONE)) {
                trail.add(Reason.of(Rule.ZONE_UNKNOWN));
            }
            if (isDeclinedByAll()) {
                trail.add(Reason.of(Rule.DECLINED_BY_ALL));
            }
            policy.keeping().missed(meeting).ifPresent(word -> trail.add(Reason.of(Rule.MISSED_BY_WORD, "word", word)));
        }
        if (isCancelled()) {
            trail.add(Reason.of(marked(policy.handling().cancelled()) ? Rule.CANCELLED_MARKED : Rule.CANCELLED_KEPT));
        }
        if (vantage.gone()) {
            trail.add(Reason.of(marked(deleted()) ? Rule.GONE_MARKED : Rule.GONE_KEPT));
        }
    }

    private boolean isDeclinedByAll() {
        List<Party> outside = item.parties().stream()
                .filter(p -> p.isPerson() && !slice.isInside(p.address()))
                .toList();
        return !outside.isEmpty()
                && outside.stream().allMatch(p -> p.part().staysAway())
                && outside.stream().anyMatch(p -> p.part() == Party.Part.DECLINED);
    }

    private static boolean marked(Handling.Vanished what) {
        return what == Handling.Vanished.MARK;
    }

    /** A private meeting is its owner's, whatever the policy says; the narrowest counts. */
    private Sharing sharing() {
        return isPrivate() ? Sharing.OWNER : policy.sharing().narrower(vantage.sharing());
    }

    private boolean isPrivate() {
        return item instanceof MeetingItem meeting && meeting.privacy() != MeetingItem.Privacy.PUBLIC;
    }

    private Rule ruleOf(Sharing sharing) {
        if (isPrivate()) {
            return Rule.PRIVATE_MEETING;
        }
        if (sharing != policy.sharing()) {
            return sharing == Sharing.OWNER ? Rule.OWN_CHOICE_OWNER : Rule.OWN_CHOICE_NARROWER;
        }
        return switch (sharing) {
            case EVERYONE -> Rule.READ_BY_EVERYONE;
            case TEAM -> Rule.READ_BY_TEAM;
            case THOSE_ON_IT -> Rule.READ_BY_THOSE_ON_IT;
            case OWNER -> Rule.READ_BY_OWNER;
        };
    }
}
