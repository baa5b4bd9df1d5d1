package jandrel.service.kernel;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.ExportApi.BeginLine;
import jandrel.api.ExportApi.EndLine;
import jandrel.api.ExportApi.RemovedLine;
import jandrel.store.kernel.ChangeCursor;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Semaphore;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import tools.jackson.core.exc.JacksonIOException;
import tools.jackson.databind.SequenceWriter;
import tools.jackson.databind.json.JsonMapper;

/**
 * What all exports have in common: one JSON object a line, {@code begin} with the cursor of the next one, what there is, {@code removed},
 * and {@code end}. Without the last line it is not whole.
 */
@Component
public class Exports {
    private static final int BUFFER = 1 << 16;
    private static final int AT_ONCE = 3;
    private static final int PAGE = 1_000;
    /** Who reads so slowly goes on with another request, and keeps nobody else waiting meanwhile. */
    private static final Duration LONGEST = Duration.ofMinutes(30);

    private final ChangeCursor cursors;
    private final JsonMapper json;
    private final Clock clock;
    private final Semaphore room = new Semaphore(AT_ONCE);

    Exports(ChangeCursor cursors, JsonMapper json, Clock clock) {
        this.cursors = cursors;
        this.json = json;
        this.clock = clock;
    }

    /** Writes all lines but the first and the last. */
    @FunctionalInterface
    public interface Body {
        /** @return whether it came to its end */
        boolean write(Lines out) throws IOException;
    }

    /** The next of them in order, so many at most; empty after the last. */
    @FunctionalInterface
    public interface Page<T> {
        List<T> next(long since, UUID after, int most);
    }

    /**
     * @param name of the file
     * @param since the cursor of an earlier export; 0 for all
     */
    public void send(String name, long since, HttpServletResponse response, Body body) throws IOException {
        long cursor = cursors.current();
        if (since < 0 || since > cursor || (since > 0 && cursor - since > ChangeCursor.OLDEST)) {
            throw Refusal.bad("“since” is no cursor of here, or too old", "Export all once more, without it.");
        }
        if (!room.tryAcquire()) {
            throw Refusal.of(
                    HttpStatus.TOO_MANY_REQUESTS,
                    AT_ONCE + " exports are under way",
                    "Try again when one of them has come to its end.");
        }
        try {
            response.setContentType("application/x-ndjson");
            response.setCharacterEncoding("UTF-8");
            response.setHeader("Content-Disposition", "attachment; filename=" + name);
            Lines out = new Lines(response.getOutputStream(), since);
            out.write(new BeginLine("begin", String.valueOf(cursor), clock.instant()));
            // one that broke off is without its last line, so that nobody takes it for whole
            if (body.write(out)) {
                out.write(new EndLine("end", out.count, out.removed));
            }
            out.flush();
        } finally {
            room.release();
        }
    }

    /** Writes one JSON object a line, and counts them. */
    public final class Lines {
        private final OutputStream out;
        private final SequenceWriter values;
        private final long since;
        private final Instant latest = clock.instant().plus(LONGEST);
        private long count;
        private long removed;

        private Lines(OutputStream out, long since) {
            this.out = new BufferedOutputStream(out, BUFFER);
            this.since = since;
            values = json.writer().withRootValueSeparator("\n").writeValues(this.out);
        }

        /** One of those that the export is of. */
        public void line(Object value) throws IOException {
            write(value);
            count++;
        }

        /**
         * Page by page, in order of their ids.
         *
         * @param after the id of the last that came before; null to begin
         * @return whether all of them were written; not where it was time to break off
         */
        public <T> boolean pages(@Nullable UUID after, Page<T> pages, Function<T, UUID> id, Function<T, Object> line)
                throws IOException {
            UUID last = after == null ? ChangeCursor.FIRST : after;
            for (List<T> page = pages.next(since, last, PAGE); !page.isEmpty(); page = pages.next(since, last, PAGE)) {
                for (T one : page) {
                    line(line.apply(one));
                }
                if (isLate()) {
                    return false;
                }
                last = id.apply(page.get(page.size() - 1));
            }
            return true;
        }

        /** All that are there no more, where only what changed is wanted. */
        public void removed(Page<UUID> gone) throws IOException {
            if (since == 0) {
                return;
            }
            UUID after = ChangeCursor.FIRST;
            for (List<UUID> page = gone.next(since, after, PAGE);
                    !page.isEmpty();
                    page = gone.next(since, after, PAGE)) {
                for (UUID id : page) {
                    write(new RemovedLine("removed", id));
                }
                removed += page.size();
                after = page.get(page.size() - 1);
            }
        }

        /** Whether it is time to break off. */
        public boolean isLate() {
            return clock.instant().isAfter(latest);
        }

        private void write(Object value) throws IOException {
            try {
                values.write(value);
            } catch (JacksonIOException gone) {
                // as with any other answer: nobody reads on
                throw gone.getCause();
            }
        }

        private void flush() throws IOException {
            values.flush();
            out.write('\n');
            out.flush();
        }
    }
}
