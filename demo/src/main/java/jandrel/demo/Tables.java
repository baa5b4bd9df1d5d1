package jandrel.demo;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The directory's four files (CSV, RFC 4180), in the order in which they refer to each other. */
final class Tables {
    private Tables() {}

    static Map<String, String> of(Cast cast, Prospects prospects) {
        Map<String, List<List<String>>> more = prospects.rows();
        Map<String, String> files = new LinkedHashMap<>();
        files.put(
                "people",
                file(
                        "key,name,addresses,team,role",
                        cast.people.stream()
                                .map(p -> List.of(
                                        p.key(), p.name(), String.join(" ", p.addresses()), p.team(), p.role()))));
        files.put(
                "accounts",
                file(
                        "key,name,domains,owner",
                        and(
                                more.get("accounts"),
                                cast.firms.stream()
                                        .map(f -> List.of(
                                                f.key(),
                                                f.name(),
                                                String.join(" ", f.domains()),
                                                f.owner().key())))));
        files.put(
                "contacts",
                file(
                        "key,name,addresses,phones,account,title,last_active",
                        and(
                                more.get("contacts"),
                                cast.customers.stream()
                                        .map(c -> List.of(
                                                c.key(),
                                                c.name(),
                                                String.join(" ", c.known()),
                                                c.phone(),
                                                c.firm().key(),
                                                c.title(),
                                                c.key().equals("con-2004") ? "2026-02-01" : "")))));
        files.put(
                "opportunities",
                file(
                        "key,name,account,stage,state,value,currency,period,channel,owner",
                        and(
                                more.get("opportunities"),
                                cast.deals.stream()
                                        .map(d -> List.of(
                                                d.key(),
                                                d.name(),
                                                d.firm().key(),
                                                d.stage(),
                                                d.state(),
                                                String.valueOf(d.value()),
                                                "EUR",
                                                "once",
                                                Prospects.channel(d),
                                                d.owner().key())))));
        return files;
    }

    private static Stream<List<String>> and(@Nullable List<List<String>> more, Stream<List<String>> rows) {
        return Stream.concat(rows, more == null ? Stream.empty() : more.stream());
    }

    static String history(Cast cast, Prospects prospects) {
        return file("opportunity,at,stage,state,value,currency,period,channel,owner", prospects.history(cast).stream());
    }

    private static String file(String header, Stream<List<String>> rows) {
        return header + "\r\n"
                + rows.map(cells -> cells.stream().map(Tables::cell).collect(Collectors.joining(",")) + "\r\n")
                        .collect(Collectors.joining());
    }

    private static String cell(String text) {
        return text.matches("[^\",\r\n]*") ? text : "\"" + text.replace("\"", "\"\"") + "\"";
    }
}
