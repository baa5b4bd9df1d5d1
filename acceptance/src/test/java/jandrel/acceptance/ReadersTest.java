package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Logins of PostgreSQL for reporting programs. What each sees is in {@link VisibilityOverHttpTest}. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ReadersTest {
    private final Harbour h;
    private Client admin;
    private String password = "";

    ReadersTest(Harbour h) {
        this.h = h;
    }

    @BeforeAll
    void open() throws Exception {
        admin = Client.of(h);
        assertThat(admin.run("readers", "add", "figures", "--as", "manager"))
                .contains("PostgreSQL is not prepared for readers", "jandrel readers setup");
        assertThat(admin.run("readers", "setup")).contains("CREATE SCHEMA", "It has not been run yet.");
        h.process.prepareReaders();
        assertThat(admin.run("readers", "setup")).contains("It has been run.");
        password = add("figures", "--as", "manager", "--for", "Quarterly figures");
    }

    /** Logins are the server's: the next run may find the same one. */
    @AfterAll
    void end() throws Exception {
        assertThat(admin.run("readers", "end", "figures")).contains("reads no more");
    }

    private String add(String login, String... more) throws Exception {
        List<String> words = new ArrayList<>(List.of("readers", "add", login));
        words.addAll(List.of(more));
        String said = admin.run(words.toArray(String[]::new));
        assertThat(said).contains("Password", "postgresql://" + login + "@");
        return said.replaceAll("(?s).*Password +([^\\n]+)\\n.*", "$1");
    }

    @Test
    void readsByPlainNames() throws Exception {
        assertThat(admin.run("readers")).contains("figures", "Quarterly figures", "manager");
        try (Connection c = h.process.reader("figures", password);
                Statement s = c.createStatement();
                ResultSet rows = s.executeQuery(
                        "SELECT count(*) FROM people p LEFT JOIN activities a ON p.id = ANY(a.people) LEFT JOIN links l ON l.activity = a.id")) {
            assertThat(rows.next()).isTrue();
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "CREATE TEMP TABLE t (i int)",
                "CREATE TABLE jandrel_1.t (i int)",
                "CREATE TABLE public.t (i int)",
                "CREATE SCHEMA s",
                "INSERT INTO jandrel_1.stages VALUES (9, 'x', 'open')",
                "UPDATE jandrel_1.people SET name = 'x'",
                "DELETE FROM jandrel_1.team_history",
                "SELECT subject FROM public.activity",
                "SELECT secret FROM public.connection",
                "SELECT * FROM public.reading",
                "SELECT * FROM public.read_activity",
                "SELECT * FROM public.reader",
                "SELECT pg_advisory_lock(1)",
                "SELECT pg_try_advisory_xact_lock(1, 2)",
                "SELECT lo_create(0)",
                "SELECT pg_notify('jandrel_timelines', '*')",
                "SELECT name FROM public.news_channel",
                "SELECT pg_logical_emit_message(false, 'x', 'x')",
                "SELECT jandrel_logins.end_longer_than(1)",
                "SET temp_file_limit = -1",
                "SET ROLE jandrel",
                "CREATE ROLE another",
                "ALTER ROLE figures CONNECTION LIMIT 100",
                "COPY jandrel_1.people TO '/tmp/people'",
                "COPY (SELECT 1) TO PROGRAM 'cat'",
                "SELECT pg_read_file('/etc/passwd')",
                "SELECT id FROM public.activity FOR UPDATE"
            })
    void changesNothingAndSeesNothingElse(String statement) throws Exception {
        try (Connection c = h.process.reader("figures", password);
                Statement s = c.createStatement()) {
            // what its own settings forbid, it can allow itself
            s.execute("SET default_transaction_read_only = off");
            assertThatThrownBy(() -> s.execute(statement))
                    .isInstanceOf(SQLException.class)
                    .hasMessageMatching("(?s).*(permission denied|must be (superuser|owner)|does not exist).*");
        }
    }

    @Test
    void aProgramFindsEveryViewAndColumnExplained() throws Exception {
        try (Connection c = h.process.reader("figures", password)) {
            List<String> views = new ArrayList<>();
            try (ResultSet found = c.getMetaData().getTables(null, "jandrel_1", "%", new String[] {"VIEW"})) {
                while (found.next()) {
                    views.add(found.getString("TABLE_NAME"));
                    assertThat(found.getString("REMARKS"))
                            .as(found.getString("TABLE_NAME"))
                            .isNotBlank();
                }
            }
            assertThat(views).contains("activities", "links", "first_meetings", "wins", "coverage");
            int columns = 0;
            try (ResultSet found = c.getMetaData().getColumns(null, "jandrel_1", "%", "%")) {
                while (found.next()) {
                    columns++;
                    assertThat(found.getString("REMARKS"))
                            .as(found.getString("TABLE_NAME") + "." + found.getString("COLUMN_NAME"))
                            .isNotBlank();
                }
            }
            try (Statement s = c.createStatement();
                    ResultSet known = s.executeQuery(
                            "SELECT count(*) FROM information_schema.columns WHERE table_schema = 'jandrel_1'")) {
                known.next();
                assertThat(columns).isGreaterThan(100).isEqualTo(known.getInt(1));
            }
        }
    }

    @Test
    void whatGoesOnTooLongIsEndedWhateverItsSessionSays() throws Exception {
        try (Connection c = h.process.reader("figures", password);
                Statement s = c.createStatement()) {
            s.execute("SET statement_timeout = 0");
            CompletableFuture<Void> sleeping = CompletableFuture.runAsync(() -> {
                try {
                    s.execute("SELECT pg_sleep(120)");
                } catch (SQLException ended) {
                    throw new IllegalStateException(ended.getMessage());
                }
            });
            Harbour.soon().until(() -> h.process.count("SELECT jandrel_logins.end_longer_than(1)") == 1);
            assertThatThrownBy(() -> sleeping.get(Harbour.seconds(20).toMillis(), TimeUnit.MILLISECONDS))
                    .hasMessageContaining("terminat");
        }
    }

    @Test
    void anEndedOneIsCutOffAtOnce() throws Exception {
        String its = add("passing", "--as", "auditor");
        try (Connection c = h.process.reader("passing", its);
                Statement s = c.createStatement()) {
            s.execute("SELECT count(*) FROM accounts");
            assertThat(admin.run("readers", "end", "passing")).contains("“passing” reads no more.");
            assertThatThrownBy(() -> s.execute("SELECT count(*) FROM accounts")).isInstanceOf(SQLException.class);
        }
        assertThatThrownBy(() -> h.process.reader("passing", its).close()).isInstanceOf(SQLException.class);
        assertThat(admin.run("readers")).doesNotContain("passing");
        assertThat(admin.run("readers", "end", "passing")).contains("There is no such reader");
        assertThat(admin.run("readers", "end", "no such / one"))
                .contains("jandrel: ")
                .doesNotContain("Exception");
        assertThat(admin.run("journal", "list", "--kind", "reader")).contains("passing");
        assertThat(h.process.count("SELECT count(*) FROM pg_roles WHERE rolname = 'passing'"))
                .isZero();
    }

    @Test
    void whoReadsAsSomebodyReadsNoMoreOnceTheyHaveLeft() throws Exception {
        h.person("read-gone", "rep");
        String its = add("as_gone", "--as", "rep", "--person", "read-gone");
        try (Connection c = h.process.reader("as_gone", its);
                Statement s = c.createStatement()) {
            s.execute("SELECT count(*) FROM accounts");
            assertThat(admin.run("end-sign-in", "read-gone", "--left")).contains("has left");
            assertThatThrownBy(() -> s.execute("SELECT count(*) FROM accounts")).isInstanceOf(SQLException.class);
        }
        assertThat(admin.run("readers")).doesNotContain("as_gone");
        assertThatThrownBy(() -> h.process.reader("as_gone", its).close()).isInstanceOf(SQLException.class);
    }

    @ParameterizedTest
    @CsvSource({
        "jandrel, manager, , PostgreSQL has another role of that name",
        "figures, manager, , There is a reader of that login or name",
        "Capital, manager, , cannot be a login",
        "pg_mine, manager, , cannot be a login",
        "x; drop, manager, , cannot be a login",
        "fine, chief, , There is no role “chief”",
        "fine, rep, , A rep reads as themselves",
        "fine, manager, Nowhere, There is no team “Nowhere”",
        "fine, administrator, Nowhere, can be limited to"
    })
    void whatCannotBeIsRefusedAndNothingIsMade(String login, String role, String team, String says) throws Exception {
        List<String> words = new ArrayList<>(List.of("readers", "add", login, "--as", role));
        if (team != null) {
            words.addAll(List.of("--team", team));
        }
        assertThat(admin.run(words.toArray(String[]::new))).contains(says);
        assertThat(h.process.count("SELECT count(*) FROM reader WHERE login IN ('fine', 'jandrel')"))
                .isZero();
        assertThat(h.process.count("SELECT count(*) FROM pg_roles WHERE rolname = 'fine'"))
                .isZero();
    }
}
