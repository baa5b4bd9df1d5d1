package jandrel.core.reconcile;

import java.util.List;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The parts of a meeting that are merged each by itself. The names are stored: never rename one. */
// it holds nothing that could change
@SuppressWarnings("ImmutableEnumChecker")
public enum Field implements Part<Details> {
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

    /** A meeting, as it is kept in step. */
    public static final Shape<Details> MEETING = new Shape<>() {
        @Override
        public List<Field> parts() {
            return List.of(values());
        }

        @Override
        public Details cancel(Details details) {
            return details.cancel();
        }
    };

    private final Function<Details, Object> value;

    Field(Function<Details, Object> value) {
        this.value = value;
    }

    @Override
    public Object of(Details details) {
        return value.apply(details);
    }

    @Override
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

    @Override
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

    @Override
    public boolean isTelling() {
        return switch (this) {
            case TITLE, WHEN, PLACE, ONLINE, TEXT -> true;
            default -> false;
        };
    }

    /** What guests answered is theirs to say. */
    @Override
    public boolean isTheirs() {
        return this == ANSWERS;
    }

    @Override
    public @Nullable Combined<Details> combine(
            @Nullable Base<Details> base, Details ours, Details theirs, boolean hereWins) {
        if (this == GUESTS) {
            return new Combined<>(ours.with(guests(base, ours.guests(), theirs.guests())), false);
        }
        if (this == ANSWERS) {
            // one may have answered by mail while another did so in the calendar
            Members<Answer> given = Members.of(base, ours, theirs, hereWins, Details::answers);
            return new Combined<>(ours.with(all(ours, theirs)).answered(given.merged()), given.clash());
        }
        return null;
    }

    /** Whom either side added is asked, whom either side took off is not. */
    private static SortedSet<String> guests(
            @Nullable Base<Details> base, SortedSet<String> ours, SortedSet<String> theirs) {
        SortedSet<String> all = new TreeSet<>(ours);
        all.addAll(theirs);
        if (base != null) {
            all.removeIf(guest -> (base.here().guests().contains(guest) && !ours.contains(guest))
                    || (base.there().guests().contains(guest) && !theirs.contains(guest)));
        }
        return all;
    }

    private static SortedSet<String> all(Details ours, Details theirs) {
        SortedSet<String> all = new TreeSet<>(ours.guests());
        all.addAll(theirs.guests());
        return all;
    }
}
