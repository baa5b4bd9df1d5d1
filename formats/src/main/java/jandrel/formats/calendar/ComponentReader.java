package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.SyntaxStyle;
import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.Context;
import com.github.mangstadt.vinnie.io.SyntaxRules;
import com.github.mangstadt.vinnie.io.VObjectDataAdapter;
import com.github.mangstadt.vinnie.io.VObjectReader;
import java.io.IOException;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;

/** Reads calendar objects into components; keeps every property, known or not, in its order and as it was written. */
final class ComponentReader extends VObjectDataAdapter {
    private static final int DEEPEST = 8;
    private final CalendarLimits limits;
    private final Deque<Component> open = new ArrayDeque<>();
    private final List<Component> calendars = new ArrayList<>(1);
    private int components;
    private int lines;
    private boolean tooMuch;

    private ComponentReader(CalendarLimits limits) {
        this.limits = limits;
    }

    /** @return every VCALENDAR of the file (RFC 5545 §3.4), at least one */
    static List<Component> all(byte[] raw, CalendarLimits limits) throws UnreadableCalendar {
        if (raw.length > limits.bytes()) {
            throw new UnreadableCalendar("it is larger than " + limits.bytes() / 1024 + " KB");
        }
        return all(new String(raw, StandardCharsets.UTF_8), limits);
    }

    static List<Component> all(String text, CalendarLimits limits) throws UnreadableCalendar {
        if (text.length() > limits.bytes()) {
            throw new UnreadableCalendar("it is larger than " + limits.bytes() / 1024 + " KB");
        }
        ComponentReader reader = new ComponentReader(limits);
        // what says no version, or says it late, is of the one that is in use; an older one says so
        SyntaxRules rules = SyntaxRules.iCalendar();
        rules.setDefaultSyntaxStyle(SyntaxStyle.NEW);
        try (VObjectReader objects = new VObjectReader(new StringReader(begun(text)), rules)) {
            objects.parse(reader);
        } catch (IOException | RuntimeException broken) {
            throw new UnreadableCalendar("its lines cannot be told apart");
        }
        if (reader.tooMuch) {
            throw new UnreadableCalendar("it holds more than " + limits.components() + " components or "
                    + limits.lines() + " lines, or nests them too deeply");
        }
        if (reader.calendars.isEmpty()) {
            throw new UnreadableCalendar("it holds no VCALENDAR");
        }
        return reader.calendars;
    }

    /** All that is in the file, as if it stood in one calendar. */
    static Component merged(String text, CalendarLimits limits) throws UnreadableCalendar {
        return merged(all(text, limits));
    }

    static Component merged(List<Component> calendars) {
        if (calendars.size() == 1) {
            return calendars.get(0);
        }
        Component all = new Component("VCALENDAR");
        calendars.forEach(c -> {
            all.properties().addAll(c.properties());
            all.children().addAll(c.children());
        });
        return all;
    }

    /** Some programs put a byte-order mark or blank lines first. */
    private static String begun(String text) {
        int at = 0;
        while (at < text.length() && (text.charAt(at) == '\uFEFF' || Character.isWhitespace(text.charAt(at)))) {
            at++;
        }
        return at == 0 ? text : text.substring(at);
    }

    @Override
    public void onComponentBegin(String name, Context context) {
        if (++components > limits.components() || open.size() >= DEEPEST) {
            tooMuch = true;
            context.stop();
            return;
        }
        Component component = new Component(name);
        if (!open.isEmpty()) {
            open.peek().children().add(component);
        } else if (name.equalsIgnoreCase("VCALENDAR")) {
            calendars.add(component);
        }
        open.push(component);
    }

    @Override
    public void onComponentEnd(String name, Context context) {
        if (!open.isEmpty()) {
            open.pop();
        }
    }

    @Override
    public void onProperty(VObjectProperty property, Context context) {
        if (++lines > limits.lines()) {
            tooMuch = true;
            context.stop();
        } else if (!open.isEmpty()) {
            open.peek().properties().add(new RawProperty(property, context.getUnfoldedLine()));
        }
    }

    /** A property like any other, which the library tells apart. */
    @Override
    public void onVersion(String value, Context context) {
        onProperty(new VObjectProperty("VERSION", value), context);
    }
}
