package jandrel.store.timeline;

import jandrel.store.kernel.Like;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * What of a record's timeline is wanted. Empty and null members do not filter. What an outline does not tell (sort, direction, who takes
 * part, attachments) narrows to what the viewer reads in full, so that nobody finds out by filtering.
 *
 * @param kind {@code mail} or {@code meeting}
 * @param sort of a meeting: {@code MEETING}, {@code CALL} or {@code FOLLOW_UP}
 * @param direction {@code in} or {@code out}: whether one of ours wrote the message
 * @param person of ours, whose it is
 * @param who a part of the name or address of somebody on it
 * @param attached only messages with attachments
 * @param evidence what ties it to the record
 * @param from the earliest
 * @param until the first moment after
 */
public record TimelineFilter(
        String kind,
        String sort,
        String direction,
        @Nullable UUID person,
        String who,
        boolean attached,
        String evidence,
        Instant from,
        Instant until) {
    public static final TimelineFilter ALL =
            new TimelineFilter("", "", "", null, "", false, "", DecisionFilter.FIRST, DecisionFilter.LAST);

    public TimelineFilter from(Instant moment) {
        return new TimelineFilter(kind, sort, direction, person, who, attached, evidence, moment, until);
    }

    public TimelineFilter until(Instant moment) {
        return new TimelineFilter(kind, sort, direction, person, who, attached, evidence, from, moment);
    }

    /** Whether nothing but a time is asked for. */
    boolean isOfTimeAlone() {
        return kind.isEmpty() && !splitsConversations();
    }

    /** Whether it asks for what an outline does not tell. */
    public boolean readsContent() {
        return !sort.isEmpty() || !direction.isEmpty() || !who.isEmpty() || attached;
    }

    /** Whether some messages of a conversation may be in it and others not, for another reason than their time. */
    public boolean splitsConversations() {
        return readsContent() || person != null || !evidence.isEmpty();
    }

    /** For ILIKE. */
    public String whoPattern() {
        return who.isEmpty() ? "" : "%" + Like.escaped(who) + "%";
    }
}
