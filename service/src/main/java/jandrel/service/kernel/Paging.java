package jandrel.service.kernel;

import jandrel.store.kernel.PageCursor;
import java.time.DateTimeException;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Pages by where the last one ended: stays right while new things come in on top, and never gets slower further down. */
public final class Paging {
    private static final int MOST = 200;

    private Paging() {}

    public static PageCursor after(@Nullable String next) {
        if (next == null || next.isEmpty()) {
            return PageCursor.TOP;
        }
        try {
            int cut = next.indexOf('_');
            return new PageCursor(Instant.parse(next.substring(0, cut)), UUID.fromString(next.substring(cut + 1)));
        } catch (DateTimeException | IllegalArgumentException | IndexOutOfBoundsException forged) {
            throw Refusal.bad("“next” is not what a page gave", "Begin again without it.");
        }
    }

    public static String next(Instant at, UUID id) {
        return at + "_" + id;
    }

    public static int limit(int wanted) {
        return within("limit", wanted, MOST);
    }

    /** A number that a caller gives. */
    public static int within(String name, int wanted, int most) {
        if (wanted < 1 || wanted > most) {
            throw Refusal.bad("“" + name + "” is out of range", "It goes from 1 to " + most + ".");
        }
        return wanted;
    }
}
