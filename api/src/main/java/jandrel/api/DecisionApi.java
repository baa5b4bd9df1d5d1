package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What became of every item seen, and why. */
public final class DecisionApi {
    private DecisionApi() {}

    /** @param part {@code from}, {@code to}, {@code cc}, {@code organiser}, {@code attendee}, … */
    public record PartyInfo(String part, String address, String name) {}

    /** One step of a trail, for programs. */
    public record ReasonInfo(String rule, Map<String, String> facts) {}

    /**
     * @param item what several decisions on the same item share; the id of its activity, if it is logged
     * @param verdict {@code logged}, {@code waiting}, {@code left-out} or {@code unreadable}
     * @param subject empty unless it is kept and the asker reads it in full
     * @param trail the reasons as sentences
     * @param reasons the same as data; empty for those who get an outline
     * @param pending whether its source is about to be asked for it once more
     */
    public record DecisionInfo(
            UUID id,
            UUID item,
            String kind,
            Instant at,
            UUID person,
            String personName,
            String source,
            String position,
            String verdict,
            String visibility,
            String subject,
            List<PartyInfo> people,
            List<String> trail,
            List<ReasonInfo> reasons,
            boolean pending,
            @Nullable UUID activity) {}

    /**
     * What a decision was before it was made again.
     *
     * @param at when it became {@code after}
     * @param before a verdict, as {@code after}
     * @param why by which rule, in short; empty for those who do not read the item in full
     * @param policy what its person's policy was called then; empty for none
     * @param version of it; 0 for none
     */
    public record DecisionChange(Instant at, String before, String after, String why, String policy, int version) {}

    /**
     * @param total how many there are, as far as they were counted
     * @param orMore whether there may be more than that
     * @param next asks for what follows; empty at the end
     */
    public record DecisionPage(long total, boolean orMore, List<DecisionInfo> decisions, String next) {}

    /** @param rule why, for what was left out or unreadable; else empty */
    public record Count(String kind, String verdict, String rule, String words, long count) {}

    /**
     * @param decisions one for each item and source that showed it
     * @param reconsidering decisions still to be made again after a change
     * @param refetching items still to be fetched once more after a change
     */
    public record Summary(
            long decisions,
            long logged,
            long waiting,
            long leftOut,
            long unreadable,
            long activities,
            List<Count> counts,
            int connections,
            int connecting,
            int troubled,
            long reconsidering,
            long refetching) {}

    /**
     * What was decided under a policy that is on, for people in the asker's oversight.
     *
     * @param version by which all of it is decided
     * @param since when that version began
     */
    public record PolicyCounts(
            UUID policy,
            String name,
            int version,
            Instant since,
            String changedBy,
            long people,
            long logged,
            long waiting,
            long leftOut,
            long unreadable) {}

    /**
     * How many decisions there are of each verdict on items of one day.
     *
     * @param day such as {@code 2026-11-27}, in the zone that was asked for
     */
    public record DayCounts(String day, long logged, long waiting, long leftOut, long unreadable) {}

    /**
     * How long mail took from its arrival to its timeline.
     *
     * @param messages how many were measured
     * @param median a bound in seconds that half of them kept; 0 when there are none
     * @param most a bound in seconds that 95 of a hundred kept
     */
    public record LatenessInfo(long messages, int median, int most) {}
}
