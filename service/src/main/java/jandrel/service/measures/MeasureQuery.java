package jandrel.service.measures;

import io.swagger.v3.oas.annotations.Parameter;
import jandrel.core.measures.Measure;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Only;
import jandrel.core.measures.Span;
import jandrel.service.kernel.NamedZone;
import jandrel.service.kernel.Refusal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Which figures somebody asks for. */
record MeasureQuery(
        @Parameter(
                description = "the first day, such as 2026-01-31; the first of the month five months ago unless given")
        @Nullable
        String from,

        @Parameter(description = "the last day; today unless given") @Nullable
        String until,

        @Parameter(description = "whose days they are, such as Europe/Oslo; UTC unless given") @Nullable
        String zone,

        @Parameter(description = "what the lines are; what the measure names first unless given") @Nullable
        String by,

        @Nullable UUID owner,

        @Parameter(description = "of this team alone; - for those in none") @Nullable
        String team,

        @Parameter(description = "of this channel alone; - for none") @Nullable
        String channel,

        @Parameter(description = "with this account alone") @Nullable
        UUID account) {
    private static final int MOST_YEARS = 5;
    private static final int MONTHS_BACK = 5;

    private static final List<String> NAMES =
            List.of("from", "until", "zone", "by", "owner", "team", "channel", "account");

    /** By the names of its parameters. */
    static MeasureQuery of(Map<String, String> all) {
        all.keySet().stream().filter(k -> !NAMES.contains(k)).findFirst().ifPresent(k -> {
            throw Refusal.bad(
                    "Figures are not asked for by “" + k + "”", "They are by " + String.join(", ", NAMES) + ".");
        });
        return new MeasureQuery(
                all.get("from"),
                all.get("until"),
                all.get("zone"),
                all.get("by"),
                id(all.get("owner")),
                all.get("team"),
                all.get("channel"),
                id(all.get("account")));
    }

    private static @Nullable UUID id(@Nullable String text) {
        try {
            return text == null ? null : UUID.fromString(text);
        } catch (IllegalArgumentException malformed) {
            throw Refusal.bad("“" + text + "” is no id", "Take one that an answer names.");
        }
    }

    record Asked(Measure measure, Span span, By by, Only only) {
        /** The same of as long a time just before. */
        Asked before() {
            return new Asked(measure, span.before(), by, only);
        }
    }

    Asked of(String name, Instant now) {
        Measure measure = Measure.called(name)
                .orElseThrow(() -> Refusal.bad(
                        "There is no measure “" + name + "”",
                        "There are "
                                + Arrays.stream(Measure.values())
                                        .map(Measure::word)
                                        .collect(Collectors.joining(", ", "", "."))));
        return new Asked(measure, span(now), lines(measure), new Only(owner, only(team), only(channel), account));
    }

    private Span span(Instant now) {
        ZoneId at = NamedZone.called(or(zone, "UTC"));
        LocalDate today = LocalDate.ofInstant(now, at);
        LocalDate usual = today.withDayOfMonth(1).minusMonths(MONTHS_BACK);
        LocalDate first = day("from", or(from, usual.toString()));
        LocalDate last = day("until", or(until, today.toString()));
        if (last.isBefore(first) || first.plusYears(MOST_YEARS).isBefore(last)) {
            throw Refusal.bad(
                    "The days are in no order", "“until” is not before “from”, and at most five years later.");
        }
        return new Span(first, last.plusDays(1), at);
    }

    private By lines(Measure measure) {
        String wanted = or(by, measure.by().get(0).word());
        return By.called(wanted)
                .filter(measure.by()::contains)
                .orElseThrow(() -> Refusal.bad(
                        "“" + measure.word() + "” cannot be told by “" + wanted + "”",
                        "It can by " + measure.by().stream().map(By::word).collect(Collectors.joining(", ", "", "."))));
    }

    private static String or(@Nullable String given, String usual) {
        return given == null || given.isEmpty() ? usual : given;
    }

    private static @Nullable String only(@Nullable String wanted) {
        return wanted == null || wanted.isEmpty() ? null : wanted.equals("-") ? "" : wanted;
    }

    private static LocalDate day(String name, String text) {
        try {
            return LocalDate.parse(text);
        } catch (DateTimeException malformed) {
            throw Refusal.bad("“" + name + "” is not a day", "Write it like 2026-03-31.");
        }
    }
}
