package jandrel.core.reconcile;

import java.util.function.Function;
import java.util.stream.Collectors;

/** The parts of a meeting that are merged each by itself. The names are stored: never rename one. */
// it holds nothing that could change
@SuppressWarnings("ImmutableEnumChecker")
public enum Field {
    TITLE(Details::title),
    WHEN(Details::when),
    PLACE(Details::place),
    ONLINE(Details::online),
    TEXT(Details::text),
    BUSY(Details::busy),
    PRIVACY(Details::privacy),
    REMINDER(Details::reminder),
    /** Merged one by one: it has no value that could lose. */
    GUESTS(Details::guests),
    /** Merged guest by guest. */
    ANSWERS(Details::answers),
    CANCELLED(Details::cancelled);

    private final Function<Details, Object> value;

    Field(Function<Details, Object> value) {
        this.value = value;
    }

    Object of(Details details) {
        return value.apply(details);
    }

    /** As the journal of conflicts keeps it. */
    public String words(Details details) {
        if (this == WHEN) {
            Details.When when = details.when();
            return when.begins() + "/" + when.ends() + (when.allDay() ? " all day" : "")
                    + (when.zone().isEmpty() ? "" : " " + when.zone());
        }
        if (this == ANSWERS) {
            return details.answers().entrySet().stream()
                    .map(e -> e.getKey() + " " + e.getValue().word())
                    .collect(Collectors.joining(", "));
        }
        return of(details).toString();
    }

    /** @param from whose value of this field it gets */
    public Details put(Details into, Details from) {
        return new Details(
                this == TITLE ? from.title() : into.title(),
                this == WHEN ? from.when() : into.when(),
                this == PLACE ? from.place() : into.place(),
                this == ONLINE ? from.online() : into.online(),
                this == TEXT ? from.text() : into.text(),
                this == BUSY ? from.busy() : into.busy(),
                this == PRIVACY ? from.privacy() : into.privacy(),
                this == REMINDER ? from.reminder() : into.reminder(),
                this == GUESTS ? from.guests() : into.guests(),
                this == ANSWERS ? from.answers() : into.answers(),
                this == CANCELLED ? from.cancelled() : into.cancelled());
    }
}
