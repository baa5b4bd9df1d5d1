package jandrel.core.policy;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;

/**
 * How often each source is looked at: every so many minutes, or at chosen times on chosen days.
 *
 * @param minutes between two looks; 0 for the service's own pace
 * @param days on which {@code times} count; empty for every day
 * @param times when it is looked at; empty when the minutes count
 */
public record Rhythm(int minutes, Set<DayOfWeek> days, List<LocalTime> times) {
    /** The service's own pace. */
    public static final Rhythm SAFE = new Rhythm(0, Set.of(), List.of());

    private static final int WEEK = 7;
    private static final int DAY_MINUTES = 1_440;

    public Rhythm {
        if (minutes < 0 || minutes > WEEK * DAY_MINUTES) {
            throw new IllegalArgumentException("minutes go from 0 to a week");
        }
        days = Set.copyOf(days);
        times = times.stream().distinct().sorted().toList();
    }

    /** The next look after one that ended now. */
    public ZonedDateTime next(ZonedDateTime now, Duration usual) {
        if (times.isEmpty()) {
            return now.plus(minutes == 0 ? usual : Duration.ofMinutes(minutes));
        }
        for (int day = 0; day <= WEEK; day++) {
            for (LocalTime time : times) {
                ZonedDateTime at = now.plusDays(day).with(time);
                if (at.isAfter(now) && (days.isEmpty() || days.contains(at.getDayOfWeek()))) {
                    return at;
                }
            }
        }
        throw new IllegalStateException("no day of the week is chosen");
    }

    /** In words, such as {@code every 15 minutes} or {@code at 07:30 on Mon, Tue}. */
    public String words(ZoneId zone) {
        if (times.isEmpty()) {
            return minutes == 0 ? "at the service’s own pace" : "every " + minutes + " minutes";
        }
        StringBuilder words = new StringBuilder("at ");
        words.append(String.join(", ", times.stream().map(LocalTime::toString).toList()));
        if (!days.isEmpty()) {
            words.append(" on ")
                    .append(String.join(
                            ", ",
                            new TreeSet<>(days)
                                    .stream()
                                            .map(d -> d.getDisplayName(
                                                    java.time.format.TextStyle.SHORT, java.util.Locale.ENGLISH))
                                            .toList()));
        }
        return words.append(" (").append(zone).append(')').toString();
    }
}
