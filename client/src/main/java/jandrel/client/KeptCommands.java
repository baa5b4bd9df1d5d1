package jandrel.client;

import jandrel.api.MeasureApi.KeptSelection;
import jandrel.api.MeasureApi.WorkingDay;
import jandrel.api.MeasureApi.WorkingHoursInfo;
import java.time.DayOfWeek;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Selections of figures that somebody keeps, and the hours that figures count. */
final class KeptCommands {
    private KeptCommands() {}

    @Command(
            name = "kept-figures",
            description = "Your kept selections of figures; “measure NAME --keep NAME” keeps one.")
    static final class KeptFigures extends Ask {
        @Option(names = "--remove", paramLabel = "NAME", description = "Removes the one of this name.")
        private String remove = "";

        @Override
        public Integer call() {
            List<KeptSelection> all = List.of(main().http().get("/api/kept-figures", Map.of(), KeptSelection[].class));
            if (!remove.isEmpty()) {
                KeptSelection found = all.stream()
                        .filter(k -> k.name().equalsIgnoreCase(remove))
                        .findFirst()
                        .orElseThrow(() -> new Trouble(Trouble.NO, "you keep nothing called “" + remove + "”"));
                main().http().send("DELETE", "/api/kept-figures/" + found.id());
                out().say("“" + found.name() + "” is kept no longer.");
                return 0;
            }
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("name", "measure", "asked", "by mail");
            for (KeptSelection k : all) {
                String asked = k.query().entrySet().stream()
                        .map(e -> e.getKey() + "=" + e.getValue())
                        .collect(Collectors.joining(" "));
                table.row(k.name(), k.measure(), asked, k.weekly() ? "Mondays" : "");
            }
            return listed(out(), table, all.size(), all.size(), "kept selections");
        }
    }

    @Command(
            name = "working-hours",
            description = "When the company works, for how long customers wait; changes it where something is given.")
    static final class WorkingHours extends Ask {
        private static final Pattern GIVEN = Pattern.compile(
                "(\\p{Alpha}{3})\\p{Alpha}*(?:-(\\p{Alpha}{3})\\p{Alpha}*)?=(\\d\\d:\\d\\d)-(\\d\\d:\\d\\d)");

        @Parameters(
                arity = "0..*",
                paramLabel = "DAYS=FROM-UNTIL",
                description = "All days on which it works, such as mon-thu=09:00-17:00 fri=09:00-15:00.")
        private List<String> days = List.of();

        @Option(names = "--zone", description = "Whose hours they are, such as Europe/Oslo.")
        private String zone = "";

        @Option(
                names = "--holidays",
                split = ",",
                paramLabel = "DAY",
                description = "All days off, such as 2026-12-25; empty for none.")
        private @Nullable List<String> holidays;

        @Override
        public Integer call() {
            WorkingHoursInfo now = main().http().get("/api/working-hours", Map.of(), WorkingHoursInfo.class);
            List<String> off = holidays;
            if (!days.isEmpty() || !zone.isEmpty() || off != null) {
                WorkingHoursInfo wanted = new WorkingHoursInfo(
                        zone.isEmpty() ? now.zone() : zone,
                        days.isEmpty()
                                ? now.days()
                                : days.stream().flatMap(d -> days(d).stream()).toList(),
                        off == null
                                ? now.holidays()
                                : off.stream().filter(d -> !d.isBlank()).toList());
                now = main().http().send("PUT", "/api/working-hours", wanted, WorkingHoursInfo.class);
            }
            if (out().json()) {
                out().objects(List.of(now));
                return 0;
            }
            Table table = new Table("day", "from", "until");
            now.days().forEach(d -> table.row(d.day(), d.from(), d.until()));
            if (now.days().isEmpty()) {
                out().say("No day is worked.");
            } else {
                out().table(table);
            }
            out().say("");
            out().say("In " + now.zone() + ". Days off: "
                    + (now.holidays().isEmpty() ? "none" : String.join(", ", now.holidays())));
            return 0;
        }

        private static List<WorkingDay> days(String given) {
            Matcher m = GIVEN.matcher(given);
            if (!m.matches()) {
                throw new Trouble(Trouble.USE, "“" + given + "” is not like mon-fri=09:00-17:00");
            }
            DayOfWeek first = day(m.group(1));
            DayOfWeek last = m.group(2) == null ? first : day(m.group(2));
            List<WorkingDay> all = new ArrayList<>();
            for (DayOfWeek day = first; ; day = day.plus(1)) {
                all.add(new WorkingDay(day.name().toLowerCase(Locale.ROOT), m.group(3), m.group(4)));
                if (day == last) {
                    return all;
                }
            }
        }

        private static DayOfWeek day(String word) {
            return Arrays.stream(DayOfWeek.values())
                    .filter(d -> d.name().startsWith(word.toUpperCase(Locale.ROOT)))
                    .findFirst()
                    .orElseThrow(() -> new Trouble(Trouble.USE, "there is no day “" + word + "”"));
        }
    }
}
