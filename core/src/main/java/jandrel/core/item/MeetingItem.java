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
 * @param zone the IANA zone the organiser's program wrote the start in; empty for UTC, floating and all-day
 * @param place the LOCATION; may be empty
 * @param online the address to join online; may be empty
 * @param sequence SEQUENCE; the higher is the newer
 * @param stamp DTSTAMP in milliseconds since the epoch; decides between equal sequences
 * @param categories CATEGORIES, RFC 5545 §3.8.1.2, in lower case
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
        List<String> categories)
        implements Item {

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
    }

    @Override
    public String version() {
        return String.format(Locale.ROOT, "%08d-%015d", sequence, stamp);
    }
}
