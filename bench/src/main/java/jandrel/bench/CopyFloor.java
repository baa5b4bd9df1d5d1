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

/** The very rows that were stored, batch by batch, to be stored once more by binary COPY: into tables alike, indexes and rows and all. */
final class CopyFloor implements AutoCloseable {
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
    private final Connection connection;
    private final CopyManager copy;
    private final Map<String, Rows> tables = new LinkedHashMap<>();

    private record Rows(String columns, List<byte[]> batches) {}

    /** Tables alike, empty. */
    static void alike(Database database) throws SQLException {
        for (Table table : TABLES) {
            database.run("CREATE TABLE bare_" + table.name() + " (LIKE " + table.name() + " INCLUDING ALL)");
        }
    }

    private static String columns(Database database, Table table) throws SQLException {
        return database.text("SELECT string_agg(column_name, ', ' ORDER BY ordinal_position)"
                + " FROM information_schema.columns WHERE table_schema = 'public' AND is_generated = 'NEVER'"
                + " AND table_name = '" + table.name() + "'");
    }

    /** Reads the rows of the newest source out. */
    CopyFloor(Database database, int batch) throws SQLException, IOException {
        this.database = database;
        database.run(
                "CREATE TABLE kept AS SELECT id, item FROM sighting WHERE source = (SELECT max(source) FROM sighting)");
        for (Table table : TABLES) {
            String columns = columns(database, table);
            tables.put(table.name(), new Rows(columns, batches(table, columns, batch)));
        }
        database.run("DROP TABLE kept");
        connection = database.open();
        connection.setAutoCommit(false);
        copy = connection.unwrap(PGConnection.class).getCopyAPI();
    }

    private List<byte[]> batches(Table table, String columns, int batch) throws SQLException, IOException {
        database.run("CREATE TABLE numbered AS SELECT row_number() OVER (ORDER BY " + table.key() + ") AS n, * FROM "
                + table.name() + " WHERE " + table.key() + " IN (SELECT " + table.of() + " FROM kept)");
        database.run("CREATE INDEX ON numbered (n)");
        long rows = database.count("SELECT count(*) FROM numbered");
        List<byte[]> parts = new ArrayList<>();
        try (Connection c = database.open()) {
            CopyManager out = c.unwrap(PGConnection.class).getCopyAPI();
            for (long from = 0; from < rows; from += batch) {
                ByteArrayOutputStream bytes = new ByteArrayOutputStream();
                out.copyOut(
                        "COPY (SELECT " + columns + " FROM numbered WHERE n > " + from + " AND n <= " + (from + batch)
                                + ") TO STDOUT (FORMAT binary)",
                        bytes);
                parts.add(bytes.toByteArray());
            }
        }
        database.run("DROP TABLE numbered");
        return parts;
    }

    int batches() {
        return tables.values().stream().mapToInt(t -> t.batches().size()).max().orElse(0);
    }

    /** Stores a batch, in a transaction. */
    void store(int batch) throws SQLException, IOException {
        for (Map.Entry<String, Rows> table : tables.entrySet()) {
            Rows rows = table.getValue();
            if (batch < rows.batches().size()) {
                copy.copyIn(
                        "COPY bare_" + table.getKey() + " (" + rows.columns() + ") FROM STDIN (FORMAT binary)",
                        new ByteArrayInputStream(rows.batches().get(batch)));
            }
        }
        connection.commit();
    }

    @Override
    public void close() throws SQLException {
        connection.close();
    }
}
