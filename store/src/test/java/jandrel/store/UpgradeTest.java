package jandrel.store;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.Stand;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A database of an earlier version keeps what it holds when it is brought up to date. */
class UpgradeTest {
    private static final String DATABASE = "store_upgrade";
    private static final String PERSON = "00000000-0000-0000-0000-000000000001";
    private static final String OWED = "00000000-0000-0000-0000-0000000000a1";
    private static final String STUCK = "00000000-0000-0000-0000-0000000000a2";
    private static final String ALIKE = "00000000-0000-0000-0000-0000000000a3";
    private final Stand stand = Stand.fromEnvironment();
    private final String server = "jdbc:postgresql://" + stand.value("POSTGRES") + "/";
    private Connection connection;

    @BeforeEach
    void open() throws SQLException {
        String password = stand.value("POSTGRES_PASSWORD");
        EmptyDatabase.withoutTables(DATABASE);
        connection = DriverManager.getConnection(server + DATABASE, "jandrel", password);
    }

    @AfterEach
    void close() throws SQLException {
        connection.close();
    }

    private void migrate(String target) {
        Flyway.configure()
                .dataSource(server + DATABASE, "jandrel", stand.value("POSTGRES_PASSWORD"))
                .locations("classpath:db/migration")
                .target(target)
                .load()
                .migrate();
    }

    private void run(String sql) throws SQLException {
        try (Statement s = connection.createStatement()) {
            s.execute(sql);
        }
    }

    /** All rows, each with its columns and bars between. */
    private List<String> rows(String sql) throws SQLException {
        List<String> rows = new ArrayList<>();
        try (Statement s = connection.createStatement();
                ResultSet r = s.executeQuery(sql)) {
            while (r.next()) {
                List<String> cells = new ArrayList<>();
                for (int i = 1; i <= r.getMetaData().getColumnCount(); i++) {
                    cells.add(String.valueOf(r.getString(i)));
                }
                rows.add(String.join("|", cells));
            }
        }
        return rows;
    }

    @Test
    void whatWaitedToGoOutStillDoes() throws SQLException {
        migrate("14");
        run("INSERT INTO person (id, key, name) VALUES ('" + PERSON + "', 'p', 'P')");
        run("INSERT INTO server (id, name, kind, host, port) VALUES ('" + PERSON + "', 's', 'imap', 'h', 1)");
        run("INSERT INTO connection (id, person, server, account, connected_at, since, state) VALUES ('" + PERSON
                + "', '" + PERSON + "', '" + PERSON + "', 'p', now(), now(), 'capturing')");
        run("INSERT INTO source (id, connection, kind, name, label, held, news) OVERRIDING SYSTEM VALUE VALUES"
                + " (7, '" + PERSON + "', 'calendar', 'c', 'c', E'9 of 24\n/a.ics#\n/b.ics#', ''),"
                + " (8, '" + PERSON + "', 'calendar', 'd', 'd', '',"
                + " 'read 1, gone 2, sent 3, received 4, merged 5, refused 6'),"
                + " (9, '" + PERSON + "', 'calendar', 'e', 'e', 'nonsense', 'nonsense')");
        plan(OWED, true, "", true);
        plan(STUCK, true, "no room", false);
        plan(ALIKE, false, "", false);
        run("INSERT INTO asked (plan, guest, way, details, withdrawn, since, at) VALUES ('" + ALIKE
                + "', 'g', 'MAIL', '{}', false, 0, now())");
        run("INSERT INTO told (item, state, by_name) VALUES ('" + ALIKE + "', 'held', 'P')");
        sighting(1, "false");
        sighting(2, "true");
        sighting(3, "NULL");

        migrate("latest");

        assertThat(rows("SELECT kind, subject, attempts, trouble FROM outbox ORDER BY kind, subject"))
                .containsExactly(
                        "CALENDAR|" + OWED + "|0|",
                        "CALENDAR|" + STUCK + "|1|no room",
                        "INVITATION|" + OWED + "|2|",
                        "KEYWORD|00000000-0000-0000-0000-000000000001|0|");
        assertThat(rows("SELECT id FROM managed_meeting WHERE NOT detached")).hasSize(3);
        assertThat(rows("SELECT meeting, guest FROM invitation")).containsExactly(ALIKE + "|g");
        assertThat(rows("SELECT item, state FROM meeting_outcome")).containsExactly(ALIKE + "|held");
        assertThat(rows("SELECT id, held_count, held_known, held_positions FROM source ORDER BY id"))
                .containsExactly("7|9|24|{/a.ics#,/b.ics#}", "8|0|0|{}", "9|0|0|{}");
        assertThat(rows("SELECT * FROM calendar_run")).containsExactly("8|1|2|3|4|5|6");
    }

    /** Archiving counts as a removal since; of what was archived before, no card leaves its owner's book. */
    @Test
    void whatWasArchivedBeforeStaysInBooks() throws SQLException {
        migrate("43");
        run("INSERT INTO person (id, key, name) VALUES ('" + PERSON + "', 'p', 'P')");
        run("INSERT INTO server (id, name, kind, host, port) VALUES ('" + PERSON + "', 's', 'carddav', 'h', 1)");
        run("INSERT INTO connection (id, person, server, account, connected_at, since, state) VALUES ('" + PERSON
                + "', '" + PERSON + "', '" + PERSON + "', 'a', now(), now(), 'capturing')");
        run("INSERT INTO source (id, connection, kind, name, label) OVERRIDING SYSTEM VALUE VALUES (1, '" + PERSON
                + "', 'book', '/b/', 'B')");
        for (String key : List.of("gone", "here")) {
            run("INSERT INTO contact (id, key, name, archived_at) VALUES (gen_random_uuid(), '" + key + "', '" + key
                    + "', " + (key.equals("gone") ? "now()" : "NULL") + ")");
            run("INSERT INTO card (id, source, href, tag, standing, why, contact, base) SELECT id, 1, '/b/" + key
                    + "', 't', 'TIED', 'FITS_ONE', id, '{}' FROM contact WHERE key = '" + key + "'");
        }
        run("INSERT INTO outbox (kind, target, subject) SELECT 'CARD', '1', id FROM card");
        migrate("44");
        assertThat(rows("SELECT href, detached, base IS NULL FROM card ORDER BY href"))
                .containsExactly("/b/gone|t|t", "/b/here|f|f");
        assertThat(rows("SELECT c.key FROM outbox x JOIN contact c ON c.id = x.subject"))
                .containsExactly("here");
    }

    private void plan(String id, boolean owed, String trouble, boolean toTell) throws SQLException {
        run(
                "INSERT INTO plan (id, item, uid, owner, made_here, made_by, out, template, details, sequence, stamp, changed_at,"
                        + " changed_by, owed, trouble, to_tell, tell_failures, made_at) VALUES ('" + id + "', '" + id
                        + "', '" + id
                        + "', '" + PERSON + "', true, 'P', true, '{}', '{}', 0, now(), now(), 'P', " + owed + ", '"
                        + trouble
                        + "', " + toTell + ", 2, now())");
    }

    private void sighting(int n, String tagged) throws SQLException {
        String id = "00000000-0000-0000-0000-00000000000" + n;
        run(
                "INSERT INTO sighting (id, source, position, person, item, kind, at, verdict, rule, trail, sharing, insiders, gone, tagged)"
                        + " VALUES ('" + id + "', 8, '1/" + n + "', '" + PERSON + "', '" + id
                        + "', 'mail', now(), 'logged', 'MATCHED', '[]', 'EVERYONE', '{}', false, " + tagged + ")");
    }
}
