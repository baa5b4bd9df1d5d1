package jandrel.client;

import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.function.Function;
import java.util.stream.Collectors;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** What all commands are made of. */
abstract class Ask implements Callable<Integer> {
    private static final String ANY_ID = "[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}";

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    final ClientContext main() {
        return (ClientContext) spec.root().userObject();
    }

    Out out() {
        return main().out();
    }

    static int listed(Out out, Table table, int shown, long total, String what) {
        return listed(out, table, shown, total, false, what);
    }

    /** @param orMore whether there may be more than the total */
    static int listed(Out out, Table table, int shown, long total, boolean orMore, String what) {
        if (shown == 0) {
            out.say("No " + what + ".");
            return Trouble.NO;
        }
        out.table(table);
        out.say("");
        String all = Out.of(shown, total, what);
        out.say((orMore ? all.replace(" of ", " of more than ") : all) + (shown < total ? "; --limit shows more" : ""));
        return 0;
    }

    static String id(String text) {
        if (!text.matches(ANY_ID)) {
            throw new Trouble(Trouble.USE, "“" + text + "” is not an id; the lists show them in their last column");
        }
        return text;
    }

    static RecordInfo record(Http http, String text) {
        if (text.matches(ANY_ID)) {
            return http.get("/api/records/" + text, Map.of(), RecordInfo.class);
        }
        RecordPage page = http.get("/api/records", query("name", text, "limit", "200"), RecordPage.class);
        List<RecordInfo> exact = page.records().stream()
                .filter(r -> r.name().equalsIgnoreCase(text))
                .toList();
        List<RecordInfo> fit = exact.isEmpty() ? page.records() : exact;
        if (fit.isEmpty()) {
            throw new Trouble(Trouble.NO, "there is no record with “" + text + "” in its name");
        }
        if (fit.size() > 1) {
            Function<RecordInfo, String> line = r -> "\n  " + r.kind() + "  " + r.name() + "  " + r.id();
            throw new Trouble(
                    Trouble.NO,
                    page.total() + " records have “" + text + "” in their name; give the id of one:"
                            + fit.stream().limit(8).map(line).collect(Collectors.joining()));
        }
        return fit.get(0);
    }

    /** The id of the record that a text names; an id is taken as it is. */
    static UUID recordId(Http http, String text) {
        return text.matches(ANY_ID) ? UUID.fromString(text) : record(http, text).id();
    }

    /** The moment at which a day begins here, so many days later; empty for no day. */
    static String day(String text, int later) {
        try {
            return text.isEmpty()
                    ? ""
                    : LocalDate.parse(text)
                            .plusDays(later)
                            .atStartOfDay(ZoneId.systemDefault())
                            .toInstant()
                            .toString();
        } catch (DateTimeParseException malformed) {
            throw new Trouble(Trouble.USE, "“" + text + "” is not a day like 2026-03-31");
        }
    }

    static Map<String, String> query(String... pairs) {
        Map<String, String> query = new LinkedHashMap<>();
        for (int i = 0; i < pairs.length; i += 2) {
            query.put(pairs[i], pairs[i + 1]);
        }
        return query;
    }
}
