package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What is never captured. */
public final class ExclusionApi {
    private ExclusionApi() {}

    /**
     * @param kind {@code address}, {@code domain} (with all below it), {@code domain-alone}, {@code pattern}, {@code header},
     *     {@code list}, {@code category}, {@code class} or {@code title}
     * @param policy counts under this one alone; null for all
     * @param person whose own it is; null when it counts for all
     * @param lastDay covers nothing dated after it; null for no end
     * @param items how many items it keeps out
     */
    public record ExclusionInfo(
            UUID id,
            String kind,
            String what,
            String reason,
            @Nullable UUID policy,
            @Nullable String person,
            @Nullable String lastDay,
            String addedBy,
            Instant addedAt,
            long items) {}

    /**
     * @param text one a line, or with commas or semicolons between: addresses (also as {@code Name <address>}), domains, or
     *     {@code kind: what} for the other kinds
     * @param kind of what is not told by its looks; null to go by looks
     * @param policy id of the only policy under which they count
     * @param lastDay such as {@code 2026-12-31}
     */
    public record NewExclusions(
            String text,
            @Nullable String reason,
            @Nullable String kind,
            @Nullable UUID policy,
            @Nullable String lastDay) {}

    /** @param ids of all that are to be removed, together or not at all */
    public record RemovedExclusions(List<UUID> ids) {}

    /** @param problem why it cannot be taken; empty when it can. {@code known}: it is excluded already */
    public record CheckedLine(int line, String text, String kind, String what, String problem, boolean known) {}

    public record CheckedLines(List<CheckedLine> lines, long fits, long problems, long known) {}

    /** @param known those that were excluded already */
    public record AddedExclusions(List<String> added, List<String> known, long reconsidering) {}

    /** @param why in a sentence */
    public record SuggestionInfo(String kind, String what, String why, long items, long people) {}
}
