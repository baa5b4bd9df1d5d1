package jandrel.store.retention;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.demo.Stand;
import jandrel.store.EmptyDatabase;
import jandrel.store.kernel.ItemKeys;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.UnaryOperator;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What leaves whole comes back to the letter, and nothing else comes in. */
class EverythingTest {
    private static final UUID KEY = new ItemKeys(new byte[32]).check();
    private static final Instant NOW = Instant.parse("2026-11-29T12:00:00Z");
    private static final String ID = "00000000-0000-0000-0000-00000000000";
    private static Connection from;
    private static Connection to;

    private static Connection fresh(String name) throws SQLException {
        EmptyDatabase.make(name);
        return DriverManager.getConnection(
                "jdbc:postgresql://" + Stand.fromEnvironment().value("POSTGRES") + "/" + name,
                "jandrel",
                Stand.fromEnvironment().value("POSTGRES_PASSWORD"));
    }

    @BeforeAll
    static void open() throws SQLException {
        from = fresh("store_everything");
        to = fresh("store_everything_taken");
        fill();
    }

    /** What was refused left it empty. */
    @BeforeEach
    void empty() throws SQLException {
        if (!Everything.isEmpty(to)) {
            to.close();
            to = fresh("store_everything_taken");
        }
    }

    @AfterAll
    static void close() throws SQLException {
        from.close();
        to.close();
    }

    private static void run(Connection database, String... statements) throws SQLException {
        try (Statement s = database.createStatement()) {
            for (String statement : statements) {
                s.execute(statement);
            }
        }
    }

    private static List<String> rows(Connection database, String query) throws SQLException {
        List<String> rows = new ArrayList<>();
        try (Statement s = database.createStatement();
                ResultSet r = s.executeQuery(query)) {
            while (r.next()) {
                rows.add(r.getString(1));
            }
        }
        return rows;
    }

    private static Map<String, List<String>> all(Connection database) throws SQLException {
        Map<String, List<String>> all = new TreeMap<>();
        for (String table : Everything.KEPT) {
            all.put(table, rows(database, "SELECT t::text FROM " + table + " t ORDER BY 1"));
        }
        return all;
    }

    /** With characters that COPY, JSON and ZIP mean something by. */
    private static void fill() throws SQLException {
        String odd = "“Ø” \\ \\\\n ''quote'' \"double\" tab\t new\nline , ; \\. \u0001\u0002 \uD83D\uDEA2";
        run(
                from,
                "INSERT INTO person (id, key, name) VALUES ('" + ID + "1', 'tobias', E'" + odd + "')",
                "INSERT INTO server (id, name, kind, host, port) VALUES ('" + ID + "2', 'mail', 'imap', 'h', 993)",
                "INSERT INTO account (id, key, name) VALUES ('" + ID + "3', 'port', '\\.')",
                "INSERT INTO account (id, key, name, above) VALUES ('" + ID + "0', 'under', '', '" + ID + "3')",
                "INSERT INTO connection (id, person, server, account, secret, connected_at, since, state, live)"
                        + " VALUES ('" + ID + "4', '" + ID + "1', '" + ID
                        + "2', 'a', '\\x00ff5c', 'infinity', '2026-03-29 01:30+00', 'capturing', true)",
                "INSERT INTO connection (id, person, server, account, connected_at, since, state)" + " VALUES ('" + ID
                        + "5', '" + ID + "1', '" + ID + "2', 'b', now(), now(), 'disconnected')",
                "INSERT INTO source (connection, kind, name, label) VALUES ('" + ID + "4', 'imap', 'INBOX', ''), ('"
                        + ID + "4', 'imap', 'Sent', '')",
                "DELETE FROM source WHERE name = 'INBOX'",
                "INSERT INTO activity (id, kind, at, all_day, subject, people, facts, owners, insiders, version, item)"
                        + " VALUES ('" + ID + "6', 'mail', '0044-03-15 10:00+00 BC', false, E'" + odd
                        + "', '[]', '{}', ARRAY['" + ID + "1']::uuid[], '{}', '1', '" + ID + "7')");
    }

    private byte[] export() throws SQLException, IOException {
        ByteArrayOutputStream file = new ByteArrayOutputStream();
        Everything.write(from, KEY, NOW, file);
        return file.toByteArray();
    }

    private Everything.Taken takeIn(byte[] file) throws Exception {
        return Everything.read(to, KEY, new ByteArrayInputStream(file));
    }

    @Test
    void everyTableIsKeptOrLeftOnPurpose() throws SQLException {
        TreeSet<String> known = new TreeSet<>(Everything.KEPT);
        known.addAll(Everything.LEFT);
        assertThat(rows(
                        from,
                        "SELECT relname FROM pg_class WHERE relnamespace = 'public'::regnamespace"
                                + " AND relkind IN ('r', 'p') AND NOT relispartition ORDER BY 1"))
                .containsExactlyInAnyOrderElementsOf(known);
        assertThat(Everything.KEPT).doesNotContainAnyElementsOf(Everything.LEFT);
    }

    @Test
    void whatLeavesComesBackToTheLetterAndConnectionsRest() throws Exception {
        Map<String, List<String>> before = all(from);
        Everything.Taken taken = takeIn(export());
        assertThat(taken.activities()).isEqualTo(1);
        assertThat(taken.connections()).isEqualTo(2);
        assertThat(rows(to, "SELECT state || live || detail FROM connection ORDER BY account"))
                .containsExactly("pausedfalsetaken in from an export", "disconnectedfalse");
        run(to, "UPDATE connection SET state = 'capturing', live = true, detail = '' WHERE account = 'a'");
        assertThat(all(to)).isEqualTo(before);
        assertThat(all(from)).as("reading changes nothing").isEqualTo(before);
    }

    @Test
    void whatIsNumberedGoesOnBehindTheLastAndTriggersAreAtWorkAgain() throws Exception {
        takeIn(export());
        run(to, "INSERT INTO source (connection, kind, name, label) VALUES ('" + ID + "4', 'imap', 'Archive', '')");
        assertThat(rows(to, "SELECT id FROM source ORDER BY id")).containsExactly("2", "3");
        assertThat(rows(to, "SELECT count(*) FROM pg_trigger WHERE NOT tgisinternal AND tgenabled = 'D'"))
                .containsExactly("0");
    }

    /** The file as it is, but for one of its entries. */
    private static byte[] changed(byte[] file, String name, UnaryOperator<String> change) throws IOException {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (ZipInputStream in = new ZipInputStream(new ByteArrayInputStream(file));
                ZipOutputStream zip = new ZipOutputStream(out)) {
            for (ZipEntry e = in.getNextEntry(); e != null; e = in.getNextEntry()) {
                String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
                zip.putNextEntry(new ZipEntry(e.getName()));
                zip.write((e.getName().equals(name) ? change.apply(text) : text).getBytes(StandardCharsets.UTF_8));
                zip.closeEntry();
            }
        }
        return out.toByteArray();
    }

    @ParameterizedTest
    @CsvSource({
        "about.json, jandrel-everything-1, another, of another format",
        "about.json, '\"schema\":\"', '\"schema\":\"9', take it in with the version that wrote it",
        "about.json, '\"key\":\"', '\"key\":\"no', it is no export of everything",
        "about.json, '{', '[', it is no export of everything",
        "person.ndjson, tobias, '\"', 'a row of person is none of ours'",
        "connection.ndjson, " + ID + "1, " + ID + "9, 'a row of connection is none of ours'",
        "activity.ndjson, BC, BCE, 'a row of activity is none of ours'",
        "account.ndjson, '{\"id\"', '{\"it\"', 'a row of account is none of ours'"
    })
    void aFileThatWasChangedIsRefusedAndNothingOfItStays(String entry, String what, String by, String why)
            throws Exception {
        Map<String, List<String>> before = all(to);
        byte[] file = changed(export(), entry, text -> {
            assertThat(text).contains(what);
            return text.replace(what, by);
        });
        assertThatThrownBy(() -> takeIn(file))
                .isInstanceOf(Everything.Unfit.class)
                .hasMessageContaining(why)
                .hasMessageNotContaining("quote");
        assertThat(all(to)).isEqualTo(before);
        assertThat(Everything.isEmpty(to)).isTrue();
    }

    @Test
    void aFileThatBrokeOffBelongsElsewhereOrComesTooLateIsRefused() throws Exception {
        byte[] file = export();
        // behind the last row nothing counts any more: what follows is the list of what came
        for (int length : new int[] {0, 10, file.length / 5, file.length / 3}) {
            assertThatThrownBy(() -> takeIn(java.util.Arrays.copyOf(file, length)))
                    .as("cut at %d", length)
                    .isInstanceOfAny(Everything.Unfit.class, IOException.class);
            assertThat(Everything.isEmpty(to)).isTrue();
        }
        assertThatThrownBy(() -> Everything.read(to, UUID.randomUUID(), new ByteArrayInputStream(file)))
                .hasMessageContaining("belongs to another key file");
        assertThatThrownBy(() -> Everything.read(from, KEY, new ByteArrayInputStream(file)))
                .hasMessageContaining("not empty");
        takeIn(file);
        assertThatThrownBy(() -> takeIn(file)).hasMessageContaining("not empty");
    }
}
