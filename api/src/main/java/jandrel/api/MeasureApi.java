package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.Map;
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
     * @param by what its lines can be: {@code month}, {@code owner}, {@code team}, {@code channel}, {@code stage}, {@code result}, {@code week}, {@code account}, {@code policy} or {@code reason}; the
     *     first unless asked otherwise
     */
    public record MeasureInfo(
            String name, String asks, String counts, String leavesOut, String outOf, String day, List<String> by) {}

    /** @param unit {@code count}, {@code share} (from 0 to 1), {@code days}, {@code hours} (worked ones), {@code meetings} or {@code money} */
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
     * @param drawn the column that says most of it, for a small plot
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
            String drawn,
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
     * @param meeting a meeting or a message; null for a record alone, and for a decision
     * @param at when it begins, or was sent; null for a record alone
     * @param state of a meeting, which way mail went, or what was decided
     * @param record of a decision, its id
     * @param kind of the record; {@code decision} for one
     * @param recordName of a decision, whose mailbox or calendar showed the item
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

    /**
     * When the company works on a day of the week.
     *
     * @param day such as {@code monday}
     * @param from such as {@code 09:00}
     * @param until such as {@code 17:00}; {@code 00:00} is midnight after it
     */
    public record WorkingDay(String day, String from, String until) {}

    /**
     * @param zone such as {@code Europe/Oslo}
     * @param days those on which it works at all
     * @param holidays such as {@code 2026-12-25}
     */
    public record WorkingHoursInfo(String zone, List<WorkingDay> days, List<String> holidays) {}

    /**
     * A selection of figures that somebody kept.
     *
     * @param query what is asked of the measure, by the names of its parameters
     * @param weekly whether it comes by mail each Monday
     */
    public record KeptSelection(UUID id, String name, String measure, Map<String, String> query, boolean weekly) {}

    /** One of the same name is written over. */
    public record NewKeptSelection(String name, String measure, Map<String, String> query, boolean weekly) {}

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
