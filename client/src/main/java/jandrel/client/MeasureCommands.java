package jandrel.client;

import jandrel.api.MeasureApi.HistoryOutcome;
import jandrel.api.MeasureApi.KeptSelection;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureInfo;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureRow;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.api.MeasureApi.NewKeptSelection;
import jandrel.api.MeasureApi.RecordChange;
import jandrel.api.MeasureApi.RowsBehind;
import jandrel.api.MeasureApi.StageInfo;
import jandrel.api.MeasureApi.StageLists;
import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What it takes to win, in figures. */
final class MeasureCommands {
    private static final int BAR = 15;

    private MeasureCommands() {}

    @Command(name = "measures", description = "The measures there are, each with what it counts.")
    static final class Measures extends Ask {
        @Override
        public Integer call() {
            List<MeasureInfo> all = List.of(main().http().get("/api/measures", Map.of(), MeasureInfo[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            for (MeasureInfo m : all) {
                out().say(m.name());
                out().say("  " + m.asks());
                out().say("  Counts:     " + m.counts());
                out().say("  Leaves out: " + m.leavesOut());
                out().say("  Out of:     " + m.outOf());
                out().say("  Day:        " + m.day());
                out().say("  By:         " + String.join(", ", m.by()));
                out().say("");
            }
            out().say("“jandrel measure " + all.get(0).name() + "” shows one.");
            return 0;
        }
    }

    @Command(name = "measure", description = "Figures of one measure, and what stands behind each.")
    static final class MeasureFigures extends Ask {
        @Parameters(index = "0", paramLabel = "NAME", description = "As “measures” lists it.")
        private String name = "";

        @Option(
                names = "--by",
                description =
                        "A line for each month, owner, team, channel, stage, result, week, account, policy or reason.")
        private String by = "";

        @Option(names = "--from", description = "The first day, such as 2026-01-01; five months ago if not given.")
        private String from = "";

        @Option(names = "--until", description = "The last day; today if not given.")
        private String until = "";

        @Option(names = "--team", description = "Of this team alone; - for those in none.")
        private String team = "";

        @Option(names = "--channel", description = "Of this channel alone; - for none.")
        private String channel = "";

        @Option(names = "--owner", paramLabel = "PERSON", description = "Of this person alone, by name or key.")
        private String owner = "";

        @Option(names = "--account", description = "With this account alone: a part of its name, or its id.")
        private String account = "";

        @Option(names = "--rows", paramLabel = "COLUMN", description = "What stands behind this column instead.")
        private String rows = "";

        @Option(
                names = "--line",
                paramLabel = "LINE",
                description = "With --rows: behind this line alone, as it is named.")
        private String line = "";

        @Option(names = "--csv", description = "As CSV (RFC 4180).")
        private boolean csv;

        @Option(
                names = "--file",
                description = "Writes it to a file that ends in .csv or .xlsx; with --rows, all that stands behind.")
        private @Nullable Path file;

        @Option(names = "--keep", paramLabel = "NAME", description = "Keeps what is asked by this name, for yourself.")
        private String keep = "";

        @Option(names = "--weekly", description = "With --keep: it comes by mail each Monday.")
        private boolean weekly;

        @Override
        public Integer call() {
            Map<String, String> query = new LinkedHashMap<>(query(
                    "by", by, "from", from, "until", until, "zone", out().zone().getId()));
            query.put("team", team);
            query.put("channel", channel);
            if (!owner.isEmpty()) {
                query.put("owner", Meeting.person(main().http(), owner).toString());
            }
            if (!account.isEmpty()) {
                query.put("account", record(main().http(), account).id().toString());
            }
            query.values().removeIf(String::isEmpty);
            if (!keep.isEmpty() || weekly) {
                return kept(query);
            }
            String path = "/api/measures/" + name;
            Path to = file;
            if (to != null) {
                return written(path, query, to);
            }
            if (csv) {
                try {
                    main().http().copy(path + "/figures.csv", query, out().stream());
                } catch (IOException gone) {
                    throw new UncheckedIOException(gone);
                }
                return 0;
            }
            MeasureSheet sheet = main().http().get(path, query, MeasureSheet.class);
            if (!rows.isEmpty()) {
                return behind(path, query, sheet);
            }
            if (out().json()) {
                out().objects(List.of(sheet));
                return 0;
            }
            figures(sheet);
            return 0;
        }

        private String key(MeasureSheet sheet) {
            return sheet.lines().stream()
                    .filter(l -> l.label().equalsIgnoreCase(line) || l.key().equals(line))
                    .findFirst()
                    .orElseThrow(() ->
                            new Trouble(Trouble.USE, "there is no line “" + line + "”; without --rows they are listed"))
                    .key();
        }

        private int kept(Map<String, String> query) {
            if (keep.isEmpty()) {
                throw new Trouble(Trouble.USE, "--weekly needs a name: --keep NAME");
            }
            main().http()
                    .send(
                            "POST",
                            "/api/kept-figures",
                            new NewKeptSelection(keep, name, query, weekly),
                            KeptSelection[].class);
            out().say("Kept as “" + keep + "”" + (weekly ? "; it comes by mail each Monday." : ".")
                    + " “jandrel kept-figures” lists them.");
            return 0;
        }

        private int written(String path, Map<String, String> query, Path to) {
            String ending = to.toString().replaceAll(".*\\.", "");
            if (!ending.equals("csv") && !ending.equals("xlsx")) {
                throw new Trouble(Trouble.USE, "“" + to + "” ends neither in .csv nor in .xlsx");
            }
            if (!rows.isEmpty()) {
                if (!line.isEmpty()) {
                    query.put("line", key(main().http().get(path, query, MeasureSheet.class)));
                }
                query.put("column", rows);
            }
            WholeFile.write(
                    to,
                    out -> main().http().copy(path + (rows.isEmpty() ? "/figures." : "/rows.") + ending, query, out));
            out().say("Written to " + to + ".");
            return 0;
        }

        private void figures(MeasureSheet sheet) {
            List<String> heading = new ArrayList<>(List.of(sheet.by()));
            sheet.columns().forEach(c -> heading.add(">" + c.name()));
            int drawn =
                    sheet.columns().stream().map(MeasureColumn::name).toList().indexOf(sheet.drawn());
            heading.add("");
            Table table = new Table(heading.toArray(String[]::new));
            double most = sheet.lines().stream()
                    .map(l -> l.cells().get(drawn).value())
                    .mapToDouble(v -> v == null ? 0 : v)
                    .max()
                    .orElse(0);
            for (MeasureLine l : sheet.lines()) {
                row(table, l, sheet, bar(l.cells().get(drawn).value(), most));
            }
            row(table, sheet.total(), sheet, "");
            out().say(sheet.says());
            out().say("");
            out().table(table);
            out().say("");
            out().say("From " + sheet.from() + " until " + sheet.until() + "; bars: "
                    + sheet.columns().get(drawn).name() + "."
                    + (sheet.hiddenSays().isEmpty() ? "" : " " + sheet.hiddenSays())
                    + (sheet.lines().stream().anyMatch(l -> isFew(l, sheet))
                            ? "\n* Fewer than " + sheet.few() + ", which says little."
                            : ""));
        }

        private static void row(Table table, MeasureLine line, MeasureSheet sheet, String drawn) {
            List<Object> cells = new ArrayList<>(List.of(line.label() + (isFew(line, sheet) ? " *" : "")));
            for (int i = 0; i < sheet.columns().size(); i++) {
                cells.add(cell(line.cells().get(i).value(), sheet.columns().get(i)));
            }
            cells.add(drawn);
            table.row(cells.toArray());
        }

        private static boolean isFew(MeasureLine l, MeasureSheet sheet) {
            return l.basis() > 0 && l.basis() < sheet.few();
        }

        private static String bar(@Nullable Double value, double most) {
            return value == null || most <= 0 ? "" : "█".repeat((int) Math.round(value / most * BAR));
        }

        private static String cell(@Nullable Double value, MeasureColumn column) {
            if (value == null) {
                return "";
            }
            return switch (column.unit()) {
                case "share" -> Math.round(value * 100) + " %";
                case "days", "hours", "meetings" -> String.format("%.1f", value);
                default -> String.format("%,.0f", value);
            };
        }

        private int behind(String path, Map<String, String> query, MeasureSheet sheet) {
            query.put("column", rows);
            if (!line.isEmpty()) {
                query.put("line", key(sheet));
            }
            RowsBehind found = main().http().get(path + "/rows", query, RowsBehind.class);
            if (out().json()) {
                out().objects(found.rows());
                return 0;
            }
            boolean meetings = found.rows().stream().anyMatch(r -> r.at() != null);
            Table table =
                    meetings ? new Table("when", "state", "title", "record", "id") : new Table("kind", "record", "id");
            for (MeasureRow r : found.rows()) {
                if (meetings) {
                    String when = r.at() == null ? "" : out().time(r.at());
                    table.row(
                            when, r.state(), r.title(), r.recordName(), r.meeting() == null ? r.record() : r.meeting());
                } else {
                    table.row(r.kind(), r.recordName(), r.record());
                }
            }
            return listed(out(), table, found.rows().size(), found.total(), "rows");
        }
    }

    @Command(
            name = "stages",
            description = "The company's own stages and channels, in its order; changes them where some are given.")
    static final class Stages extends Ask {
        @Parameters(
                arity = "0..*",
                paramLabel = "STAGE=MEANS",
                description = "All stages in order, each with what it comes to: open, agreed, won or lost.")
        private List<String> stages = List.of();

        @Option(names = "--channels", split = ",", paramLabel = "NAME", description = "All channels in order.")
        private @Nullable List<String> channels;

        @Override
        public Integer call() {
            StageLists now = main().http().get("/api/stages", Map.of(), StageLists.class);
            List<String> wantedChannels = channels;
            if (!stages.isEmpty() || wantedChannels != null) {
                StageLists wanted = new StageLists(
                        stages.isEmpty()
                                ? now.stages()
                                : stages.stream().map(Stages::stage).toList(),
                        wantedChannels == null ? now.channels() : wantedChannels);
                now = main().http().send("PUT", "/api/stages", wanted, StageLists.class);
            }
            if (out().json()) {
                out().objects(List.of(now));
                return 0;
            }
            Table table = new Table("stage", "means");
            now.stages().forEach(s -> table.row(s.name(), s.means()));
            if (now.stages().isEmpty()) {
                out().say(
                                "No stages yet: “jandrel stages \"First talk=open\" Signed=agreed Won=won” says what there are.");
            } else {
                out().table(table);
            }
            out().say("");
            out().say("Channels: " + (now.channels().isEmpty() ? "none" : String.join(", ", now.channels())));
            return 0;
        }

        private static StageInfo stage(String text) {
            int cut = text.lastIndexOf('=');
            if (cut < 1) {
                throw new Trouble(Trouble.USE, "“" + text + "” is not like \"Signed=agreed\"");
            }
            return new StageInfo(text.substring(0, cut), text.substring(cut + 1));
        }
    }

    @Command(
            name = "history",
            description =
                    "How an opportunity was before, and since when; with --import, brings a file of such changes.")
    static final class History extends Ask {
        @Parameters(arity = "0..1", paramLabel = "OPPORTUNITY", description = "A part of its name, or its id.")
        private String record = "";

        @Option(
                names = "--import",
                paramLabel = "FILE",
                description =
                        "CSV: opportunity (its key), at, state, and perhaps stage, value, currency, period, channel and owner.")
        private @Nullable Path file;

        @Override
        public Integer call() {
            Path given = file;
            if (given != null) {
                HistoryOutcome o = main().http()
                        .sendCsv("/api/directory/opportunity-history", Changing.file(given), HistoryOutcome.class);
                if (out().json()) {
                    out().objects(List.of(o));
                }
                out().say(String.format("%,d added, %,d stood there already", o.added(), o.known()));
                return 0;
            }
            if (record.isEmpty()) {
                throw new Trouble(Trouble.USE, "name an opportunity, or give a file with --import");
            }
            RecordInfo found = opportunity();
            RecordChange[] changes =
                    main().http().get("/api/records/" + found.id() + "/history", Map.of(), RecordChange[].class);
            if (out().json()) {
                out().objects(Arrays.asList(changes));
                return 0;
            }
            Table table = new Table("from", "state", "stage", ">value", "owner", "channel", "by", "origin");
            for (RecordChange c : changes) {
                table.row(
                        out().time(c.at()),
                        c.state(),
                        c.stage(),
                        (c.value() + " " + c.currency() + (c.period().equals("month") ? " a month" : "")).strip(),
                        c.owner(),
                        c.channel(),
                        c.by(),
                        c.origin());
            }
            out().say(found.name());
            return listed(out(), table, changes.length, changes.length, "changes");
        }

        /** The one by that name among opportunities, whatever else is called so. */
        private RecordInfo opportunity() {
            List<RecordInfo> some = main().http()
                    .get("/api/records", query("name", record, "kind", "opportunity", "limit", "2"), RecordPage.class)
                    .records();
            return record(main().http(), some.size() == 1 ? some.get(0).id().toString() : record);
        }
    }
}
