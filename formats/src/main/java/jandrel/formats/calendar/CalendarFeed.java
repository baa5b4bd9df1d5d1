package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.SyntaxStyle;
import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.VObjectPropertyValues;
import com.github.mangstadt.vinnie.io.VObjectWriter;
import jandrel.core.reconcile.Details;
import java.io.IOException;
import java.io.Writer;
import java.time.Instant;
import java.util.Map;

/** Writes meetings as one iCalendar object to subscribe to (RFC 5545, RFC 7986). A stream: its length does not matter. */
public final class CalendarFeed implements AutoCloseable {
    private final VObjectWriter out;

    /** @param name of the calendar, as a program shows it */
    public CalendarFeed(Writer to, String name) throws IOException {
        out = new VObjectWriter(to, SyntaxStyle.NEW);
        out.setCaretEncodingEnabled(true);
        out.writeBeginComponent("VCALENDAR");
        out.writeProperty("VERSION", "2.0");
        out.writeProperty("PRODID", MeetingFile.PRODUCT);
        out.writeProperty("METHOD", "PUBLISH");
        out.writeProperty("NAME", VObjectPropertyValues.escape(name));
        VObjectProperty refresh = new VObjectProperty("REFRESH-INTERVAL", "PT15M");
        refresh.getParameters().put("VALUE", "DURATION");
        out.writeProperty(refresh);
    }

    /**
     * @param details without guests: a subscription tells what is on, and asks nobody
     * @param changed when it was last changed
     */
    public void add(String uid, Details details, int sequence, Instant changed) throws IOException {
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
        out.writeEndComponent("VEVENT");
    }

    @Override
    public void close() throws IOException {
        out.writeEndComponent("VCALENDAR");
        out.flush();
    }
}
