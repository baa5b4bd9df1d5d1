package jandrel.formats.calendar;

import com.github.mangstadt.vinnie.VObjectProperty;
import com.github.mangstadt.vinnie.io.Context;
import com.github.mangstadt.vinnie.io.SyntaxRules;
import com.github.mangstadt.vinnie.io.VObjectDataAdapter;
import com.github.mangstadt.vinnie.io.VObjectReader;
import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** Reads a calendar object into components; keeps every property, known or not, in its order. */
final class ComponentReader extends VObjectDataAdapter {
    private static final int DEEPEST = 8;
    private final CalendarLimits limits;
    private final Deque<Component> open = new ArrayDeque<>();
    private @Nullable Component calendar;
    private int count;
    private boolean tooMuch;

    private ComponentReader(CalendarLimits limits) {
        this.limits = limits;
    }

    static Component read(String text, CalendarLimits limits) throws UnreadableCalendar {
        ComponentReader reader = new ComponentReader(limits);
        try (VObjectReader objects = new VObjectReader(new StringReader(text), SyntaxRules.iCalendar())) {
            objects.parse(reader);
        } catch (IOException | RuntimeException broken) {
            throw new UnreadableCalendar("its lines cannot be told apart");
        }
        if (reader.tooMuch) {
            throw new UnreadableCalendar(
                    "it holds more than " + limits.components() + " components, or nests them too deeply");
        }
        return Optional.ofNullable(reader.calendar).orElseThrow(() -> new UnreadableCalendar("it holds no VCALENDAR"));
    }

    @Override
    public void onComponentBegin(String name, Context context) {
        if (++count > limits.components() || open.size() >= DEEPEST) {
            tooMuch = true;
            context.stop();
            return;
        }
        Component component = new Component(name);
        if (!open.isEmpty()) {
            open.peek().children().add(component);
        } else if (calendar == null && name.equalsIgnoreCase("VCALENDAR")) {
            calendar = component;
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
        if (!open.isEmpty()) {
            open.peek().properties().add(property);
        }
    }
}
