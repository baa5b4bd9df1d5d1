package jandrel.bench;

import jandrel.demo.Stand;
import java.util.List;

/** {@code bin/bench}: prints figures as ratios to their floors, one line each. */
public final class Bench {
    private Bench() {}

    public static void main(String[] wanted) throws Exception {
        Stand stand = Stand.fromEnvironment();
        List<String> all = wanted.length == 0
                ? List.of(
                        "decide",
                        "read",
                        "backfill",
                        "first-look",
                        "live",
                        "contact",
                        "rehearse",
                        "timeline",
                        "calendar",
                        "contacts",
                        "contacts-out",
                        "crowd",
                        "guessing",
                        "console")
                : List.of(wanted);
        for (String name : all) {
            switch (name) {
                case "decide" -> DecideBench.run();
                case "backfill" -> new Backfill(stand, 20_000, 3, "-Xmx1g").run();
                case "backfill-200k" -> new Backfill(stand, 200_000, 1, "-Xmx256m").run();
                case "rehearse" -> new RehearsalBench(stand).run();
                case "read" -> ReadingMail.run();
                case "first-look" -> new FirstLook(stand).run();
                case "live" -> new Live(stand).run();
                case "contact" -> new OneContact(stand).run();
                case "calendar-first" -> new CalendarBench(stand).first();
                case "calendar" -> new CalendarBench(stand).run();
                case "contacts" -> new BookBench(stand).in();
                case "contacts-out" -> new BookBench(stand).out();
                case "contacts-50k" -> new BookBench(stand).memory();
                case "crowd" -> new Crowd(stand).run();
                case "guessing" -> new Guessing(stand).run();
                case "console" -> new ConsoleBench(stand).run();
                case "search" -> new SearchBench(stand).run();
                case "export" -> new ExportBench(stand).run();
                case "import" -> new ImportBench(stand).run();
                case "timeline" -> new TimelineReads(stand).run();
                case "measures" -> new MeasureBench(stand).run(1_000_000);
                case "measures-5m" -> new MeasureBench(stand).run(5_000_000);
                default ->
                    throw new IllegalArgumentException(
                            "there is no benchmark " + name
                                    + "; there are decide, read, backfill, backfill-200k, live, contact, rehearse, timeline, calendar, contacts, contacts-out, contacts-50k, crowd, guessing, console, search, import, export, measures and measures-5m");
            }
        }
    }
}
