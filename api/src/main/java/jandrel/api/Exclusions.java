package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What is never captured. */
public final class Exclusions {
    private Exclusions() {}

    /**
     * @param kind {@code address} or {@code domain}, which takes in all below it
     * @param items how many items it keeps out
     */
    public record ExclusionInfo(
            UUID id, String kind, String what, String reason, String addedBy, Instant addedAt, long items) {}

    /** @param text addresses and domains, one a line or with commas between */
    public record NewExclusions(String text, @Nullable String reason) {}

    /** @param known those that were excluded already */
    public record AddedExclusions(List<String> added, List<String> known, long reconsidering) {}
}
