package jandrel.core.timeline;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** When several people are free at once. Pure. */
public final class FreeTime {
    /** From one instant until before another. */
    public record Span(Instant from, Instant until) {
        boolean isEmpty() {
            return !from.isBefore(until);
        }
    }

    /**
     * The hours that a search looks at.
     *
     * @param weekends whether Saturdays and Sundays count
     */
    public record Hours(LocalTime from, LocalTime until, boolean weekends, ZoneId zone) {}

    private FreeTime() {}

    /** Overlapping and touching spans as one, in order. */
    public static List<Span> merged(List<Span> busy) {
        List<Span> sorted = busy.stream()
                .filter(s -> !s.isEmpty())
                .sorted(Comparator.comparing(Span::from))
                .toList();
        List<Span> merged = new ArrayList<>();
        for (Span span : sorted) {
            Span last = merged.isEmpty() ? null : merged.get(merged.size() - 1);
            if (last == null || span.from().isAfter(last.until())) {
                merged.add(span);
            } else if (span.until().isAfter(last.until())) {
                merged.set(merged.size() - 1, new Span(last.from(), span.until()));
            }
        }
        return merged;
    }

    /** The longest spans inside the hours of the days from {@code from} that nobody is busy in and that are long enough. */
    public static List<Span> free(List<Span> busy, Span within, Hours hours, Duration atLeast) {
        List<Span> merged = merged(busy);
        List<Span> free = new ArrayList<>();
        LocalDate last = within.until().atZone(hours.zone()).toLocalDate();
        for (LocalDate day = within.from().atZone(hours.zone()).toLocalDate();
                !day.isAfter(last);
                day = day.plusDays(1)) {
            if (hours.weekends() || day.getDayOfWeek().getValue() <= 5) {
                Instant begins =
                        later(day.atTime(hours.from()).atZone(hours.zone()).toInstant(), within.from());
                Instant ends =
                        earlier(day.atTime(hours.until()).atZone(hours.zone()).toInstant(), within.until());
                gaps(merged, begins, ends, atLeast, free);
            }
        }
        return free;
    }

    private static void gaps(List<Span> busy, Instant begins, Instant ends, Duration atLeast, List<Span> into) {
        Instant from = begins;
        for (Span span : busy) {
            if (span.until().isAfter(from) && span.from().isBefore(ends)) {
                add(new Span(from, earlier(span.from(), ends)), atLeast, into);
                from = later(from, span.until());
            }
        }
        add(new Span(from, ends), atLeast, into);
    }

    private static void add(Span span, Duration atLeast, List<Span> into) {
        if (!span.isEmpty() && Duration.between(span.from(), span.until()).compareTo(atLeast) >= 0) {
            into.add(span);
        }
    }

    private static Instant later(Instant a, Instant b) {
        return a.isAfter(b) ? a : b;
    }

    private static Instant earlier(Instant a, Instant b) {
        return a.isBefore(b) ? a : b;
    }
}
