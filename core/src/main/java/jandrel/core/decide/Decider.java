package jandrel.core.decide;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Exclusion;
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
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/**
 * Decides. A pure function of its arguments: no clock, no I/O, no memory. Live capture, rehearsal and reconsidering all call it, so
 * that a timeline never depends on the order in which things became known.
 */
public final class Decider {
    private final Item item;
    private final Vantage vantage;
    private final Policy policy;
    private final DirectorySlice slice;

    private Decider(Item item, Vantage vantage, Policy policy, DirectorySlice slice) {
        this.item = item;
        this.vantage = vantage;
        this.policy = policy;
        this.slice = slice;
    }

    public static Decision decide(Item item, Vantage vantage, Policy policy, DirectorySlice slice) {
        if (item instanceof UnreadableItem unreadable) {
            return Decision.without(
                    Verdict.UNREADABLE, List.of(Reason.of(Rule.UNREADABLE, "why", unreadable.reason())));
        }
        return new Decider(item, vantage, policy, slice).decide();
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
        Optional<Reason> out = switchedOff()
                .or(this::outsideCover)
                .or(this::vanished)
                .or(this::ofASort)
                .or(this::notByAPerson);
        if (out.isPresent()) {
            return Decision.without(Verdict.LEFT_OUT, List.of(out.get()));
        }
        Optional<Exclusion> exclusion = slice.exclusions().covering(item, policy.id(), vantage.person());
        if (exclusion.isPresent()) {
            return Decision.excluded(exclusion.get().id(), List.of(excluded(exclusion.get())));
        }
        return amongPeople();
    }

    private Optional<Reason> switchedOff() {
        if (item instanceof MailItem mail) {
            return mailOff(mail);
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

    private Optional<Reason> outsideCover() {
        Instant end = item instanceof MeetingItem meeting ? meeting.ends() : item.at();
        if (end.isBefore(vantage.since())) {
            return Optional.of(Reason.of(Rule.TOO_OLD, "since", day(vantage.since())));
        }
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
        return vantage.gone() && policy.handling().deleted() == Handling.Vanished.REMOVE
                ? Optional.of(Reason.of(Rule.GONE))
                : Optional.empty();
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

    private Optional<Reason> notByAPerson() {
        if (!(item instanceof MailItem mail)) {
            return Optional.empty();
        }
        Nature nature = mail.nature();
        return switch (nature.kind()) {
            case ORDINARY -> Optional.empty();
            case AUTOMATIC -> Optional.of(Reason.of(Rule.AUTOMATIC, "header", nature.evidence()));
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
        int ours = 0;
        for (Party party : item.parties()) {
            if (!party.isPerson()) {
                continue;
            }
            if (slice.isInside(party.address())) {
                ours++;
                slice.insider(party.address()).ifPresent(person -> insiders.add(person.id()));
            } else {
                outsiders.add(party.address());
            }
        }
        if (outsiders.isEmpty()) {
            return Decision.without(Verdict.LEFT_OUT, List.of(Reason.of(ours <= 1 ? Rule.ALONE : Rule.INSIDE_ONLY)));
        }
        Matching matching = new Matching(slice, insiders, policy.ties());
        outsiders.forEach(matching::match);
        List<Reason> trail = new ArrayList<>(matching.trail());
        Sharing sharing = sharing();
        UUID team = sharing == Sharing.TEAM ? vantage.team() : null;
        if (matching.links().isEmpty()) {
            trail.add(Reason.of(Rule.NOBODY_MATCHED));
            return new Decision(Verdict.WAITING, trail, List.of(), sharing, insiders, team, null);
        }
        marks(trail);
        trail.add(Reason.of(ruleOf(sharing)));
        return new Decision(Verdict.LOGGED, trail, matching.links(), sharing, insiders, team, null);
    }

    private void marks(List<Reason> trail) {
        if (isCancelled()) {
            trail.add(Reason.of(marked(policy.handling().cancelled()) ? Rule.CANCELLED_MARKED : Rule.CANCELLED_KEPT));
        }
        if (vantage.gone()) {
            trail.add(Reason.of(marked(policy.handling().deleted()) ? Rule.GONE_MARKED : Rule.GONE_KEPT));
        }
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
