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
        String channel) {
    private static final int MOST_YEARS = 5;
    private static final int MONTHS_BACK = 5;

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
        return new Asked(measure, span(now), lines(measure), new Only(owner, only(team), only(channel)));
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
