package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Measures, and what they are told by: stages, channels, and how opportunities were before. */
public final class MeasureApi {
    private MeasureApi() {}

    /**
     * What a measure counts, in words.
     *
     * @param name such as {@code first-meetings}
     * @param asks the question that it answers
     * @param outOf of what its shares are shares
     * @param day by which day something belongs to a time
     * @param by what its lines can be: {@code month}, {@code owner}, {@code team}, {@code channel}, {@code stage}, {@code result}, {@code week} or {@code account}; the first unless asked
     *     otherwise
     */
    public record MeasureInfo(
            String name, String asks, String counts, String leavesOut, String outOf, String day, List<String> by) {}

    /** @param unit {@code count}, {@code share} (from 0 to 1), {@code days}, {@code meetings} or {@code money} */
    public record MeasureColumn(String name, String unit) {}

    /**
     * @param value null where there is none
     * @param rows how many meetings or records stand behind it
     */
    public record MeasureCell(@Nullable Double value, int rows) {}

    /**
     * @param basis how many stand behind its figures
     * @param cells one for each column
     */
    public record MeasureLine(String key, String label, int basis, List<MeasureCell> cells) {}

    /**
     * @param until the last day
     * @param says the figures in a sentence
     * @param few a line of fewer says little; 0 where that does not matter
     * @param before the same of as long a time just before; null where that says nothing
     * @param hidden of how many accounts or opportunities it says less than it could, as the asker may not read all of theirs
     * @param hiddenSays that in words; empty for none
     */
    public record MeasureSheet(
            MeasureInfo measure,
            String by,
            String from,
            String until,
            String zone,
            String says,
            List<MeasureColumn> columns,
            List<MeasureLine> lines,
            MeasureLine total,
            @Nullable MeasureLine before,
            int few,
            long hidden,
            String hiddenSays) {}

    /**
     * One of those that a figure counts.
     *
     * @param meeting null for a record alone
     * @param at when the meeting begins; null for a record alone
     * @param state of a meeting
     * @param kind of the record
     */
    public record MeasureRow(
            @Nullable UUID meeting,
            @Nullable Instant at,
            String title,
            String state,
            UUID record,
            String kind,
            String recordName) {}

    public record RowsBehind(long total, List<MeasureRow> rows) {}

    /** @param means what an open opportunity in it comes to: {@code open}, {@code agreed}, {@code won} or {@code lost} */
    public record StageInfo(String name, String means) {}

    /** Both in the company's order. */
    public record StageLists(List<StageInfo> stages, List<String> channels) {}

    /** @param known those that stood there already, to the letter */
    public record HistoryOutcome(int added, int known) {}

    /**
     * How an opportunity was from a moment on.
     *
     * @param origin {@code change}, {@code file} (of changes before it came here) or {@code upgrade}
     */
    public record RecordChange(
            Instant at,
            String by,
            String origin,
            String stage,
            String state,
            String value,
            String currency,
            String period,
            String owner,
            String account,
            String channel) {}
}
