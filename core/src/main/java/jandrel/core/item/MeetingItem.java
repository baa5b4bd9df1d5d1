package jandrel.core.item;

import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * One occurrence of a meeting (RFC 5545). A meeting that does not recur is its only occurrence.
 *
 * @param recurrence the instant of RECURRENCE-ID, which names the occurrence in its series; null when the meeting does not recur
 * @param zone the IANA zone the organiser's program wrote the start in; empty for UTC, floating and
 *     all-day; {@link #UNKNOWN_ZONE} where the organiser's zone is not known, so that UTC was taken for it
 * @param place the LOCATION; may be empty
 * @param online the address to join online; may be empty
 * @param sequence SEQUENCE; the higher is the newer
 * @param stamp DTSTAMP in milliseconds since the epoch; decides between equal sequences
 * @param categories CATEGORIES, RFC 5545 §3.8.1.2, in lower case
 * @param sort a meeting, unless it was made here as something else
 * @param transparency whether it takes its owner's time
 */
public record MeetingItem(
        String identity,
        String uid,
        @Nullable Instant recurrence,
        Instant at,
        Instant ends,
        boolean allDay,
        String zone,
        List<Party> parties,
        String subject,
        String place,
        String online,
        Privacy privacy,
        State state,
        int sequence,
        long stamp,
        List<String> categories,
        Sort sort,
        Transparency transparency)
        implements Item {
    /** In place of a zone whose name nobody knows, and whose rules the object does not bring along. */
    public static final String UNKNOWN_ZONE = "?";

    /** What kind of meeting; a calendar on its own knows meetings alone. */
    public enum Sort {
        MEETING,
        CALL,
        FOLLOW_UP;

        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }

        /** By its word, however it is written; a meeting if it is none. */
        public static Sort of(String word) {
            for (Sort sort : values()) {
                if (sort.word().equalsIgnoreCase(word)) {
                    return sort;
                }
            }
            return MEETING;
        }
    }

    /** TRANSP, RFC 5545 §3.8.2.7. */
    public enum Transparency {
        OPAQUE,
        TRANSPARENT;

        /** Where nothing is said: programs mark days, birthdays and the like by meetings of whole days. */
        public static Transparency usual(boolean allDay) {
            return allDay ? TRANSPARENT : OPAQUE;
        }
    }

    /** CLASS, RFC 5545 §3.8.1.3. */
    public enum Privacy {
        PUBLIC,
        PRIVATE,
        CONFIDENTIAL
    }

    /** Whether it takes place. */
    public enum State {
        PLANNED,
        CANCELLED
    }

    public MeetingItem {
        parties = List.copyOf(parties);
        // facts kept before there were categories have none
        categories = List.copyOf(Objects.requireNonNullElse(categories, List.of()));
        sort = Objects.requireNonNullElse(sort, Sort.MEETING);
        transparency = Objects.requireNonNullElse(transparency, Transparency.usual(allDay));
    }

    /** Whether its owner has time for nothing else meanwhile. */
    public boolean takesTime() {
        return state != State.CANCELLED && transparency == Transparency.OPAQUE;
    }

    @Override
    public String version() {
        return String.format(Locale.ROOT, "%08d-%015d", sequence, stamp);
    }
}
