package jandrel.store.measures;

import jandrel.core.measures.Only;
import jandrel.core.measures.Span;
import jandrel.core.visibility.Viewer;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * What the database counts, of whom.
 *
 * @param starts when each line begins, for lines that are times; else empty
 * @param overseen of whom the viewer may know; null for everybody
 * @param line null for all
 * @param kind null for all
 */
record CountQuery(
        Instant from,
        Instant until,
        String[] starts,
        UUID @Nullable [] overseen,
        @Nullable UUID owner,
        @Nullable String team,
        @Nullable String line,
        @Nullable String kind) {
    /** What a line is called that the database counted: times by their number, all others by themselves. */
    static String line(Map<String, Instant> times, String counted) {
        return times.isEmpty() ? counted : List.copyOf(times.keySet()).get(Integer.parseInt(counted) - 1);
    }

    static CountQuery of(
            Span span,
            Map<String, Instant> times,
            Only only,
            Viewer viewer,
            @Nullable String line,
            @Nullable String kind) {
        // times are numbered: what a zone is called does not mean the same to a database
        String wanted = line == null || times.isEmpty()
                ? line
                : String.valueOf(List.copyOf(times.keySet()).indexOf(line) + 1);
        return new CountQuery(
                span.begin(),
                span.end(),
                times.values().stream().map(Instant::toString).toArray(String[]::new),
                viewer.oversight().limit(),
                only.owner(),
                only.team(),
                wanted,
                kind);
    }
}
