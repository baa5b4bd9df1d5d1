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
    private static final List<String> TABLES =
            List.of("sighting", "stranger", "stranger_phone", "wrote", "activity", "body", "link");
    private final Database database;
    private final Map<String, Rows> tables = new LinkedHashMap<>();

    private record Rows(String columns, List<byte[]> batches) {}

    /** Reads the rows out, all but those of the first source. */
    CopyFloor(Database database, int batch) throws SQLException, IOException {
        this.database = database;
        database.run("CREATE TABLE kept AS SELECT id, item FROM sighting WHERE source > (SELECT min(id) FROM source)");
        database.run("CREATE TABLE kept_item AS SELECT DISTINCT item AS activity FROM kept");
        for (String table : TABLES) {
            String columns = database.text("SELECT string_agg(column_name, ', ' ORDER BY ordinal_position)"
                    + " FROM information_schema.columns WHERE table_schema = 'public' AND is_generated = 'NEVER'"
                    + " AND table_name = '" + table + "'");
            tables.put(table, new Rows(columns, batches(table, columns, batch)));
        }
        database.run("DROP TABLE kept, kept_item");
    }

    private List<byte[]> batches(String table, String columns, int batch) throws SQLException, IOException {
        String key = switch (table) {
            case "sighting", "activity" -> "id";
            case "body", "link" -> "activity";
            default -> "sighting";
        };
        boolean byItem = table.equals("activity") || key.equals("activity");
        database.run("CREATE TABLE numbered AS SELECT row_number() OVER (ORDER BY " + key + ") AS n, * FROM " + table
                + " WHERE " + key + " IN (SELECT " + (byItem ? "activity FROM kept_item" : "id FROM kept") + ")");
        database.run("CREATE INDEX ON numbered (n)");
        long rows = database.count("SELECT count(*) FROM numbered");
        List<byte[]> parts = new ArrayList<>();
        try (Connection c = database.open()) {
            CopyManager copy = c.unwrap(PGConnection.class).getCopyAPI();
            for (long from = 0; from < rows; from += batch) {
                ByteArrayOutputStream out = new ByteArrayOutputStream();
                copy.copyOut(
                        "COPY (SELECT " + columns + " FROM numbered WHERE n > " + from + " AND n <= " + (from + batch)
                                + ") TO STDOUT (FORMAT binary)",
                        out);
                parts.add(out.toByteArray());
            }
        }
        database.run("DROP TABLE numbered");
        return parts;
    }

    /** @return seconds, a transaction a batch */
    double store() throws SQLException, IOException {
        database.run("TRUNCATE " + String.join(", ", TABLES));
        try (Connection c = database.open()) {
            c.setAutoCommit(false);
            CopyManager copy = c.unwrap(PGConnection.class).getCopyAPI();
            int most = tables.values().stream()
                    .mapToInt(t -> t.batches().size())
                    .max()
                    .orElse(0);
            long began = System.nanoTime();
            for (int i = 0; i < most; i++) {
                for (Map.Entry<String, Rows> table : tables.entrySet()) {
                    Rows rows = table.getValue();
                    if (i < rows.batches().size()) {
                        copy.copyIn(
                                "COPY " + table.getKey() + " (" + rows.columns() + ") FROM STDIN (FORMAT binary)",
                                new ByteArrayInputStream(rows.batches().get(i)));
                    }
                }
                c.commit();
            }
            return (System.nanoTime() - began) / 1e9;
        }
    }
}
