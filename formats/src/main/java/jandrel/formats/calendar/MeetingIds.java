package jandrel.formats.calendar;

import java.util.Locale;
import java.util.Optional;

/**
 * What names a meeting in a calendar object, without reading all of it.
 *
 * @param method METHOD in upper case (RFC 5546); empty for none
 * @param uid UID of its first event; empty for none
 */
public record MeetingIds(String method, String uid) {
    /** @return nothing for what is no calendar object */
    public static Optional<MeetingIds> of(String object) {
        try {
            Component calendar = ComponentReader.merged(object, CalendarLimits.USUAL);
            String uid = calendar.children("VEVENT").stream()
                    .map(event -> event.value("UID"))
                    .findFirst()
                    .orElse("");
            String method = calendar.value("METHOD").toUpperCase(Locale.ROOT);
            return Optional.of(new MeetingIds(method.length() > 20 ? "" : method, uid));
        } catch (UnreadableCalendar none) {
            return Optional.empty();
        }
    }
}
