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
    /** @param of which column of a sighting the key is, in the order of which rows go in */
    private record Table(String name, String key, String of) {}

    private static final List<Table> TABLES = List.of(
            new Table("sighting", "id", "id"),
            new Table("stranger", "sighting", "id"),
            new Table("stranger_phone", "sighting", "id"),
            new Table("wrote", "sighting", "id"),
            new Table("activity", "id", "item"),
            new Table("body", "item", "item"),
            new Table("link", "activity", "item"));
    private final Database database;
    private final Map<String, Rows> tables = new LinkedHashMap<>();

    private record Rows(String columns, List<byte[]> batches) {}

    /** Reads the rows out, all but those of the first source. */
    CopyFloor(Database database, int batch) throws SQLException, IOException {
        this.database = database;
        database.run("CREATE TABLE kept AS SELECT id, item FROM sighting WHERE source > (SELECT min(id) FROM source)");
        for (Table table : TABLES) {
            String columns = database.text("SELECT string_agg(column_name, ', ' ORDER BY ordinal_position)"
                    + " FROM information_schema.columns WHERE table_schema = 'public' AND is_generated = 'NEVER'"
                    + " AND table_name = '" + table.name() + "'");
            tables.put(table.name(), new Rows(columns, batches(table, columns, batch)));
        }
        database.run("DROP TABLE kept");
    }

    private List<byte[]> batches(Table table, String columns, int batch) throws SQLException, IOException {
        database.run("CREATE TABLE numbered AS SELECT row_number() OVER (ORDER BY " + table.key() + ") AS n, * FROM "
                + table.name() + " WHERE " + table.key() + " IN (SELECT " + table.of() + " FROM kept)");
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
        database.run("TRUNCATE " + String.join(", ", tables.keySet()));
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
