package jandrel.sources;

import jandrel.sources.Multistatus.Answer;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.regex.Pattern;

/** CalDAV (RFC 4791), to read and to write. */
public final class CalDavServer extends DavCollections implements CalendarServer {
    private static final DavWords WORDS = new DavWords("the calendar server", "calendar", "meeting", 4 * 1024 * 1024);
    private static final WebDav.Objects OBJECTS =
            new WebDav.Objects(Multistatus.CALDAV, "calendar-multiget", "calendar-data");
    private static final Pattern COLOUR = Pattern.compile("#[0-9A-Fa-f]{6}([0-9A-Fa-f]{2})?");

    private CalDavServer(WebDav dav) {
        super(dav, OBJECTS, "text/calendar; charset=utf-8");
    }

    /**
     * @param egress asked before each request, as what a name leads to may change
     * @throws SourceTrouble if the path leads to another server
     */
    public static CalDavServer open(Endpoint endpoint, ServerAccount account, Trust trust, Inward egress) {
        return open(endpoint, account, trust, egress, Patience.USUAL);
    }

    /** @throws SourceTrouble if the path leads to another server */
    public static CalDavServer open(
            Endpoint endpoint, ServerAccount account, Trust trust, Inward egress, Patience patience) {
        return new CalDavServer(WebDav.open(endpoint, account, trust, egress, patience, WORDS));
    }

    @Override
    public List<Calendar> calendars() {
        String ask = "<d:propfind xmlns:d='DAV:' xmlns:c='" + Multistatus.CALDAV + "' xmlns:i='" + Multistatus.COLOURS
                + "'><d:prop><d:resourcetype/><d:displayname/><i:calendar-color/><d:supported-report-set/>"
                + "<d:current-user-privilege-set/><c:supported-calendar-component-set/></d:prop></d:propfind>";
        List<Calendar> found = new ArrayList<>();
        for (Answer answer : dav.send("PROPFIND", home(), "1", ask).answers()) {
            boolean events =
                    answer.components().isEmpty() || answer.components().contains("VEVENT");
            if (answer.is("calendar") && events) {
                String name = answer.text("displayname");
                String colour = answer.text("calendar-color").strip();
                found.add(new Calendar(
                        answer.href(),
                        name.isEmpty() ? "calendar" : name,
                        COLOUR.matcher(colour).matches() ? colour.substring(0, 7) : "",
                        answer.said("report").contains("sync-collection"),
                        WebDav.isWritable(answer)));
            }
        }
        return found;
    }

    private java.net.URI home() {
        return dav.home("calendar-home-set", Multistatus.CALDAV);
    }

    @Override
    public boolean schedules() {
        return dav.can(home(), "calendar-auto-schedule");
    }

    @Override
    public DavChanges changes(Calendar calendar, String token) {
        return dav.changes(calendar.href(), calendar.syncs(), token);
    }

    @Override
    public String make(String name) {
        String ask = "<c:mkcalendar xmlns:d='DAV:' xmlns:c='" + Multistatus.CALDAV + "'><d:set><d:prop><d:displayname>"
                + Multistatus.escaped(name) + "</d:displayname><c:supported-calendar-component-set>"
                + "<c:comp name='VEVENT'/></c:supported-calendar-component-set></d:prop></d:set></c:mkcalendar>";
        return dav.make(home(), "calendar-" + UUID.randomUUID(), "MKCALENDAR", ask);
    }
}
