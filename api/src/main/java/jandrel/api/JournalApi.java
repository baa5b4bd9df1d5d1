package jandrel.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The record of what people changed and what the service ran. */
public final class JournalApi {
    private JournalApi() {}

    /**
     * @param kind of the thing, such as {@code policy}
     * @param before as JSON; null when it was not there
     * @param after as JSON; null when it is gone
     * @param hash SHA-256 over the canonical JSON (RFC 8785) of the entry, which names the hash before it
     */
    public record EntryInfo(
            long number,
            Instant at,
            String who,
            String what,
            String kind,
            String thing,
            String name,
            @Nullable String before,
            @Nullable String after,
            String hash) {}

    /** @param next the number to ask for entries before; 0 on the last page */
    public record JournalPage(long total, List<EntryInfo> entries, long next) {}

    /** @param broken the number of the first entry that does not fit; 0 when all do */
    public record VerifiedInfo(long entries, long broken, String why, String head) {}
}
