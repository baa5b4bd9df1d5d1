package jandrel.core.decide;

import jandrel.core.policy.Handling;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Scope;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;

/** What a verdict rests on besides the item: all that can change while the item stays as it is. */
public enum Input {
    /** Whether a policy has the person at all. */
    COVER,
    /** The day on which their cover ends. */
    COVER_END,
    /** Which policy it is; exclusions can be limited to one. */
    POLICY,
    RECEIVED,
    SENT,
    MEETINGS,
    /** The first day that is captured. */
    SINCE,
    PRIVATE_ITEMS,
    CANCELLED_MEETINGS,
    SERIES,
    /** Whether the author of a forwarded message counts. */
    FORWARDED_AUTHOR,
    EXCLUSIONS,
    /** More addresses are ours than before: people's own, or those under the company's domains. */
    MORE_INSIDERS,
    /** Fewer addresses are ours than before. */
    FEWER_INSIDERS,
    /** Which addresses are the same, because their provider ignores dots. */
    SAME_ADDRESSES,
    /** Whether the person's calendar is captured, so that meetings come from there. */
    CALENDAR,
    /** The records that somebody tied the item to. */
    PINS,
    /** What the person chose by hand: by a folder, a keyword or a hand-over. */
    HAND;

    /** @return those in which two policies differ, for somebody who comes from the one under the other */
    static Set<Input> changed(Optional<Policy> before, Policy after) {
        if (before.isEmpty()) {
            return EnumSet.of(
                    COVER,
                    POLICY,
                    RECEIVED,
                    SENT,
                    MEETINGS,
                    SINCE,
                    PRIVATE_ITEMS,
                    CANCELLED_MEETINGS,
                    SERIES,
                    FORWARDED_AUTHOR);
        }
        Policy was = before.get();
        Set<Input> changed = EnumSet.noneOf(Input.class);
        changed(was.scope(), after.scope(), changed);
        changed(was.handling(), after.handling(), changed);
        add(was.id().equals(after.id()), POLICY, changed);
        add(was.ties().forwarded() == after.ties().forwarded(), FORWARDED_AUTHOR, changed);
        return changed;
    }

    private static void changed(Scope was, Scope is, Set<Input> into) {
        add(was.received() == is.received(), RECEIVED, into);
        add(was.sent() == is.sent(), SENT, into);
        add(was.meetings() == is.meetings(), MEETINGS, into);
        add(was.backDays() == is.backDays(), SINCE, into);
    }

    private static void changed(Handling was, Handling is, Set<Input> into) {
        add(was.privateItems() == is.privateItems(), PRIVATE_ITEMS, into);
        add(was.cancelled() == is.cancelled(), CANCELLED_MEETINGS, into);
        add(was.series() == is.series(), SERIES, into);
    }

    private static void add(boolean same, Input input, Set<Input> into) {
        if (!same) {
            into.add(input);
        }
    }
}
