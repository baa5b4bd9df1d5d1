package jandrel.bench;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;

/** The floor of storing: a binary COPY of the very rows that were stored into the very tables, indexes and all, in batches. */
final class CopyFloor {
    private static final Map<String, String> TABLES = new LinkedHashMap<>(Map.of(
            "sighting",
                    "id, source, position, person, item, kind, at, verdict, rule, trail, links, sharing, insiders, exclusion, facts, keys, refetch",
            "activity", "id, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, version",
            "body", "activity, version, state, text, html, attachments",
            "link", "record, at, activity, kind, evidence"));
    private final Database database;
    private final Map<String, List<byte[]>> batches = new LinkedHashMap<>();

    /** Reads the rows out, then empties the tables. */
    CopyFloor(Database database, int batch) throws SQLException, IOException {
        this.database = database;
        try (Connection c = database.open()) {
            CopyManager copy = c.unwrap(PGConnection.class).getCopyAPI();
            for (Map.Entry<String, String> table : TABLES.entrySet()) {
                long rows = database.count("SELECT count(*) FROM " + table.getKey());
                List<byte[]> parts = new ArrayList<>();
                String order = table.getKey().equals("link") || table.getKey().equals("body") ? "activity" : "id";
                for (long from = 0; from < rows; from += batch) {
                    ByteArrayOutputStream out = new ByteArrayOutputStream();
                    copy.copyOut(
                            "COPY (SELECT " + table.getValue() + " FROM " + table.getKey() + " ORDER BY " + order
                                    + " OFFSET " + from + " LIMIT " + batch + ") TO STDOUT (FORMAT binary)",
                            out);
                    parts.add(out.toByteArray());
                }
                batches.put(table.getKey(), parts);
            }
        }
    }

    /** @return seconds, a transaction a batch */
    double store() throws SQLException, IOException {
        database.run("TRUNCATE sighting, activity, body, link");
        try (Connection c = database.open()) {
            c.setAutoCommit(false);
            CopyManager copy = c.unwrap(PGConnection.class).getCopyAPI();
            int most = batches.values().stream().mapToInt(List::size).max().orElse(0);
            long began = System.nanoTime();
            for (int i = 0; i < most; i++) {
                for (Map.Entry<String, List<byte[]>> table : batches.entrySet()) {
                    if (i < table.getValue().size()) {
                        copy.copyIn(
                                "COPY " + table.getKey() + " (" + TABLES.get(table.getKey())
                                        + ") FROM STDIN (FORMAT binary)",
                                new ByteArrayInputStream(table.getValue().get(i)));
                    }
                }
                c.commit();
            }
            return (System.nanoTime() - began) / 1e9;
        }
    }
}
