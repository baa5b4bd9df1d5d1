package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectProperty;
import jandrel.core.address.EmailAddress;
import jandrel.core.reconcile.Answer;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * A guest's answer to an invitation (RFC 5546 §3.2.3), as it came by mail (RFC 6047).
 *
 * @param recurrence names an occurrence of a series; null for all of it, or for a meeting that does not recur
 * @param sequence of the invitation that is answered
 * @param stamp when it was answered: of two answers the later counts
 */
public record Reply(
        String uid, @Nullable Instant recurrence, String guest, Answer answer, int sequence, Instant stamp) {

    /** An answer names one occurrence, whose zone may have to be followed; a stranger can send it. */
    private static final CalendarLimits LIMITS = new CalendarLimits(10_000, 1, 50, 50, 2_000, 256 * 1024);

    /**
     * @param object the calendar object that a message carries
     * @param from who wrote the message: an answer in somebody else's name is none
     */
    public static Optional<Reply> of(String object, EmailAddress from) {
        try {
            Component calendar = ComponentReader.merged(object, LIMITS);
            List<Component> events = calendar.children("VEVENT");
            if (!calendar.value("METHOD").equalsIgnoreCase("REPLY") || events.size() != 1) {
                return Optional.empty();
            }
            Component event = events.get(0);
            String uid = event.value("UID");
            List<VObjectProperty> attendees = event.all("ATTENDEE");
            if (uid.isEmpty() || uid.length() > CalendarLimits.LONGEST_UID || attendees.size() != 1) {
                return Optional.empty();
            }
            VObjectProperty attendee = attendees.get(0);
            boolean own =
                    EmailAddress.parse(attendee.getValue()).filter(from::equals).isPresent();
            String said = attendee.getParameters().first("PARTSTAT");
            Optional<Answer> answer = own && said != null ? Answer.of(said) : Optional.empty();
            if (answer.isEmpty()) {
                return Optional.empty();
            }
            return Optional.of(new Reply(
                    uid, recurrence(event, calendar), from.toString(), answer.get(), sequence(event), stamp(event)));
        } catch (UnreadableCalendar | RuntimeException none) {
            return Optional.empty();
        }
    }

    private static @Nullable Instant recurrence(Component event, Component calendar) throws UnreadableCalendar {
        VObjectProperty id = event.first("RECURRENCE-ID").orElse(null);
        if (id == null) {
            return null;
        }
        Moment moment = Moment.of(id.getValue());
        String tzid = id.getParameters().first("TZID");
        boolean utc = moment.utc() || moment.date() || tzid == null;
        return moment.in(
                utc
                        ? ZoneOffset.UTC.getRules()
                        : new Zones(calendar, new Work(LIMITS)).of(tzid).rules());
    }

    private static int sequence(Component event) {
        String value = event.value("SEQUENCE");
        return value.matches("\\d{1,7}") ? Integer.parseInt(value) : 0;
    }

    private static Instant stamp(Component event) {
        try {
            return Moment.of(event.value("DTSTAMP")).in(ZoneOffset.UTC.getRules());
        } catch (UnreadableCalendar none) {
            return Instant.EPOCH;
        }
    }
}
