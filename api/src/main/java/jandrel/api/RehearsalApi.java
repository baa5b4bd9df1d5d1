package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What a change of the rules would do, told before it is made. */
public final class RehearsalApi {
    private RehearsalApi() {}

    /**
     * @param differences in sentences; empty when all is as the file says
     * @param change what can be rehearsed of it; null when nothing can
     */
    public record FileOutcome(
            List<String> differences, @Nullable Change change) {}

    /**
     * The change, of one kind or several; what is null stays as it is.
     *
     * @param policy the id of the policy that {@code rules} is for; null for a new one before all others
     * @param version the version of it that the change is made from
     * @param order the ids of policies in their new order
     * @param exclude lines as for adding exclusions
     * @param include ids of exclusions to be removed
     * @param file policies as a file has them
     */
    public record Change(
            @Nullable UUID policy,
            @Nullable Integer version,
            PolicyApi.@Nullable PolicyRules rules,
            @Nullable List<UUID> order,
            ExclusionApi.@Nullable NewExclusions exclude,
            @Nullable List<UUID> include,
            @Nullable List<String> own,
            @Nullable List<String> freeMail,
            PolicyApi.@Nullable PoliciesFile file) {
        public Change(
                @Nullable UUID policy,
                @Nullable Integer version,
                PolicyApi.@Nullable PolicyRules rules,
                @Nullable List<UUID> order,
                ExclusionApi.@Nullable NewExclusions exclude,
                @Nullable List<UUID> include,
                @Nullable List<String> own,
                @Nullable List<String> freeMail) {
            this(policy, version, rules, order, exclude, include, own, freeMail, null);
        }
    }

    /** How many activities would appear, vanish, be read by others, or be linked otherwise. */
    public record Counts(long appear, long vanish, long readers, long links) {}

    public record Tally(String id, String name, Counts counts) {}

    /**
     * @param effects {@code appears}, {@code vanishes}, {@code readers}, {@code links}
     * @param before the trail as it is, in sentences
     * @param after the trail as it would be
     */
    public record Example(
            UUID item,
            String kind,
            Instant at,
            String person,
            List<String> effects,
            List<String> before,
            List<String> after) {}

    /**
     * @param items that the change touches
     * @param decisions that would differ
     * @param fetched items of which nothing is kept, and whose headers were fetched to tell
     * @param notes what the numbers cannot say
     */
    public record Report(
            long items,
            long decisions,
            long fetched,
            Counts activities,
            List<Tally> byPerson,
            List<Tally> byAccount,
            List<Tally> byReason,
            List<Example> examples,
            List<String> notes) {
        public Report withoutExamples() {
            return new Report(items, decisions, fetched, activities, byPerson, byAccount, byReason, List.of(), notes);
        }
    }

    /**
     * @param state {@code running}, {@code done}, {@code stopped}, {@code failed}, {@code applied} or {@code undone}
     * @param old whether the rules have changed since, so that it must be rehearsed again before it can be applied
     */
    public record RehearsalInfo(
            UUID id,
            String state,
            long done,
            long total,
            @Nullable Report report,
            String detail,
            boolean old) {}

    /**
     * What a change left to do.
     *
     * @param left items still to be decided again
     * @param toFetch items still to be fetched once more
     */
    public record Background(long left, long toFetch, boolean paused) {}
}
