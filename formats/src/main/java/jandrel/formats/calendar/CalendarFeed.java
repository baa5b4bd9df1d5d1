package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.SyntaxStyle;
import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.VObjectPropertyValues;
import com.github.mangstadt.vinnie.io.VObjectWriter;
import jandrel.core.item.Party;
import jandrel.core.reconcile.Details;
import jandrel.formats.mail.OneLine;
import java.io.IOException;
import java.io.Writer;
import java.time.Instant;
import java.util.List;
import java.util.Map;

/** Writes meetings as one iCalendar object, to subscribe to or to keep (RFC 5545, RFC 7986). A stream: its length does not matter. */
public final class CalendarFeed implements AutoCloseable {
    private final VObjectWriter out;

    private CalendarFeed(Writer to) throws IOException {
        out = new VObjectWriter(to, SyntaxStyle.NEW);
        out.setCaretEncodingEnabled(true);
        out.writeBeginComponent("VCALENDAR");
        out.writeProperty("VERSION", "2.0");
        out.writeProperty("PRODID", MeetingFile.PRODUCT);
    }

    /**
     * One that is fetched again and again. It tells what is on, and not who takes part: nobody is asked by it (RFC 5546 §3.2.1).
     *
     * @param name of the calendar, as a program shows it
     */
    public static CalendarFeed subscription(Writer to, String name) throws IOException {
        CalendarFeed feed = new CalendarFeed(to);
        feed.out.writeProperty("METHOD", "PUBLISH");
        feed.out.writeProperty("NAME", VObjectPropertyValues.escape(name));
        VObjectProperty refresh = new VObjectProperty("REFRESH-INTERVAL", "PT15M");
        refresh.getParameters().put("VALUE", "DURATION");
        feed.out.writeProperty(refresh);
        return feed;
    }

    /** One that is kept as a file, with who takes part. */
    public static CalendarFeed file(Writer to) throws IOException {
        return new CalendarFeed(to);
    }

    /**
     * @param details without guests
     * @param changed when it was last changed
     * @param people who takes part; none in a subscription
     */
    public void add(String uid, Details details, int sequence, Instant changed, List<Party> people) throws IOException {
        Component event = Edits.fresh(uid);
        new Edits(
                        event,
                        null,
                        details,
                        new WriteOptions(sequence, changed, "", "", "", "meeting", false, false, Map.of()))
                .all();
        out.writeBeginComponent("VEVENT");
        for (VObjectProperty property : event.properties()) {
            if (!property.getName().equals(Edits.MARK)) {
                out.writeProperty(property);
            }
        }
        for (Party party : people) {
            out.writeProperty(party(party));
        }
        out.writeEndComponent("VEVENT");
    }

    /** No calendar server that the file is put into writes to them (RFC 6638 §7.1). */
    private static VObjectProperty party(Party party) {
        boolean organises = party.part() == Party.Part.ORGANISER;
        VObjectProperty property =
                new VObjectProperty(organises ? "ORGANIZER" : "ATTENDEE", "mailto:" + party.address());
        property.getParameters().put("SCHEDULE-AGENT", "NONE");
        if (!party.name().isEmpty()) {
            property.getParameters().put("CN", OneLine.plain(party.name()));
        }
        switch (party.part()) {
            case ACCEPTED, TENTATIVE, DECLINED, DELEGATED ->
                property.getParameters().put("PARTSTAT", party.part().name());
            case GROUP, ROOM ->
                property.getParameters().put("CUTYPE", party.part().name());
            default -> {
                // not answered yet
            }
        }
        return property;
    }

    @Override
    public void close() throws IOException {
        out.writeEndComponent("VCALENDAR");
        out.flush();
    }
}
