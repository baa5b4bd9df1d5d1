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
 * Decides. A pure function of its arguments: no clock, no I/O, no memory. Live capture and reconsidering both call it, so that a
 * timeline never depends on the order in which things became known.
 */
public final class Decider {
    private Decider() {}

    public static Decision decide(Item item, Vantage vantage, Policy policy, DirectorySlice slice) {
        if (item instanceof UnreadableItem unreadable) {
            return Decision.without(
                    Verdict.UNREADABLE, List.of(Reason.of(Rule.UNREADABLE, "why", unreadable.reason())));
        }
        Optional<Reason> out = switchedOff(item, policy)
                .or(() -> tooOld(item, vantage))
                .or(() -> notTakingPlace(item))
                .or(() -> notByAPerson(item));
        if (out.isPresent()) {
            return Decision.without(Verdict.LEFT_OUT, List.of(out.get()));
        }
        for (Party party : item.parties()) {
            Optional<Exclusion> exclusion = slice.exclusion(party.address());
            if (exclusion.isPresent()) {
                return Decision.excluded(exclusion.get().id(), List.of(excluded(exclusion.get())));
            }
        }
        return amongPeople(item, policy, slice);
    }

    /** The decision on an item that its source no longer shows. */
    public static Decision gone() {
        return Decision.without(Verdict.LEFT_OUT, List.of(Reason.of(Rule.GONE)));
    }

    private static Optional<Reason> switchedOff(Item item, Policy policy) {
        if (item instanceof MailItem && !policy.mail()) {
            return Optional.of(Reason.of(Rule.MAIL_OFF));
        }
        return item instanceof MeetingItem && !policy.meetings()
                ? Optional.of(Reason.of(Rule.MEETINGS_OFF))
                : Optional.empty();
    }

    private static Optional<Reason> tooOld(Item item, Vantage vantage) {
        Instant end = item instanceof MeetingItem meeting ? meeting.ends() : item.at();
        return end.isBefore(vantage.since())
                ? Optional.of(Reason.of(
                        Rule.TOO_OLD, "since", vantage.since().toString().substring(0, 10)))
                : Optional.empty();
    }

    private static Optional<Reason> notTakingPlace(Item item) {
        return item instanceof MeetingItem meeting && meeting.state() == MeetingItem.State.CANCELLED
                ? Optional.of(Reason.of(Rule.CANCELLED))
                : Optional.empty();
    }

    private static Optional<Reason> notByAPerson(Item item) {
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

    private static Reason excluded(Exclusion exclusion) {
        String what = exclusion.key().startsWith("@") ? exclusion.key().substring(1) : exclusion.key();
        return Reason.of(Rule.EXCLUDED, "exclusion", what, "reason", exclusion.reason());
    }

    private static Decision amongPeople(Item item, Policy policy, DirectorySlice slice) {
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
        Matching matching = new Matching(slice, insiders);
        outsiders.forEach(matching::match);
        List<Reason> trail = new ArrayList<>(matching.trail());
        Sharing sharing = sharing(item, policy);
        if (matching.links().isEmpty()) {
            trail.add(Reason.of(Rule.NOBODY_MATCHED));
            return new Decision(Verdict.WAITING, trail, List.of(), sharing, insiders, null);
        }
        trail.add(Reason.of(ruleOf(item, sharing)));
        return new Decision(Verdict.LOGGED, trail, matching.links(), sharing, insiders, null);
    }

    /** A private meeting is its owner's, whatever the policy says; the narrower of the two counts. */
    private static Sharing sharing(Item item, Policy policy) {
        return isPrivate(item) ? Sharing.OWNER : policy.sharing();
    }

    private static boolean isPrivate(Item item) {
        return item instanceof MeetingItem meeting && meeting.privacy() != MeetingItem.Privacy.PUBLIC;
    }

    private static Rule ruleOf(Item item, Sharing sharing) {
        if (isPrivate(item)) {
            return Rule.PRIVATE_MEETING;
        }
        return sharing == Sharing.EVERYONE ? Rule.READ_BY_EVERYONE : Rule.READ_BY_THOSE_ON_IT;
    }
}
