package jandrel.store.retention;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.zip.ZipEntry;
import java.util.zip.ZipInputStream;
import java.util.zip.ZipOutputStream;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * All that an installation holds, as one ZIP file (APPNOTE 6.3): {@code about.json}, then for each table one file of NDJSON, a row a line, as
 * PostgreSQL writes a row as JSON. What others are made of comes before them. Read and written in one transaction each, in memory that
 * does not grow with the company.
 */
public final class Everything {
    /** In an order in which each row finds the rows that it names. */
    static final List<String> KEPT = List.of(
            "server",
            "person",
            "person_address",
            "person_team",
            "team",
            "account",
            "account_domain",
            "account_history",
            "merged_account",
            "two_accounts",
            "contact",
            "contact_address",
            "contact_details",
            "contact_phone",
            "contact_stay",
            "merged_contact",
            "two_people",
            "lead",
            "lead_address",
            "merged_lead",
            "opportunity",
            "opportunity_contact",
            "own_field",
            "opportunity_history",
            "stage",
            "channel",
            "own_domain",
            "free_mail_domain",
            "dotless_domain",
            "policy",
            "policy_version",
            "cover",
            "cover_history",
            "exclusion",
            "rules_state",
            "allowed_host",
            "connection",
            "connection_history",
            "source",
            "book",
            "card",
            "card_conflict",
            "calendar_run",
            "open_series",
            "handed",
            "sighting",
            "activity",
            "body",
            "link",
            "activity_gone",
            "decision_gone",
            "record_gone",
            "record_touched",
            "working_hours",
            "kept_figures",
            "activity_tally",
            "tally",
            "lateness",
            "pin",
            "ruling",
            "decision_change",
            "stranger",
            "stranger_hidden",
            "stranger_phone",
            "triage_deed",
            "wrote",
            "not_again",
            "moved",
            "reconsider",
            "managed_meeting",
            "conflict",
            "invitation",
            "meeting_opening",
            "opening_not_again",
            "meeting_outcome",
            "result",
            "meeting_result",
            "journal",
            "sign_in",
            "emergency_sign_in",
            "second_factor",
            "recovery_code",
            "feed",
            "followed",
            "notice_choice",
            "notice_state",
            "password_rule",
            "identity_provider",
            "provider_role",
            "provider_identity",
            "import_mapping");

    /** What belongs to one run of one installation: sessions, work that is under way, caches, who else may connect to its database. */
    static final Set<String> LEFT = Set.of(
            "flyway_schema_history",
            "installation",
            "scheduled_tasks",
            "listener",
            "news_channel",
            "token",
            "sign_in_link",
            "known_device",
            "wrong_password",
            "consent",
            "quota",
            "outbox",
            "measure_change",
            "reader",
            "rehearsal",
            "search_part",
            "import_file",
            "import_taken",
            "import_change");

    /** Any of these has rows as soon as somebody has begun. */
    private static final List<String> FILLED =
            List.of("sign_in", "person", "account", "contact", "connection", "activity", "journal");

    private static final String ABOUT = "about.json";
    private static final String FORMAT = "jandrel-everything-1";
    private static final int LONGEST_ABOUT = 4_096;
    /** The characters that its JSON never holds unescaped, so that COPY changes nothing (RFC 8259, section 7). */
    private static final String PLAIN = "(FORMAT csv, DELIMITER E'\\x02', QUOTE E'\\x01')";

    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** What is wrong with a file, for who brought it. */
    public static class Unfit extends Exception {
        private static final long serialVersionUID = 1L;

        Unfit(String why) {
            super(why);
        }
    }

    /** Somebody has begun there. */
    public static final class NotEmpty extends Unfit {
        private static final long serialVersionUID = 1L;

        NotEmpty() {
            super("the database is not empty");
        }
    }

    /**
     * @param schema the last migration of the database it came from
     * @param key what the key file that its secrets are sealed with is known by
     */
    public record About(String format, String schema, UUID key, Instant at) {}

    /** How much came. */
    public record Taken(About about, long rows, long activities, long connections) {}

    private Everything() {}

    /** As of one moment; the connection must not be in a transaction. */
    public static void write(Connection database, UUID key, Instant now, OutputStream to)
            throws SQLException, IOException {
        // closed only when all is written: a file that broke off must not look whole
        ZipOutputStream zip = new ZipOutputStream(to, StandardCharsets.UTF_8);
        try (Statement s = database.createStatement()) {
            s.execute("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY");
            try {
                s.execute("SET LOCAL statement_timeout = 0");
                s.execute("SET LOCAL timezone = 'UTC'");
                zip.putNextEntry(new ZipEntry(ABOUT));
                zip.write(JSON.writeValueAsBytes(new About(FORMAT, schema(s), key, now)));
                zip.closeEntry();
                CopyManager copy = database.unwrap(PGConnection.class).getCopyAPI();
                for (String table : KEPT) {
                    zip.putNextEntry(new ZipEntry(table + ".ndjson"));
                    copy.copyOut("COPY (SELECT row_to_json(t) FROM " + table + " t) TO STDOUT " + PLAIN, zip);
                    zip.closeEntry();
                }
                zip.close();
            } finally {
                s.execute("ROLLBACK");
            }
        }
    }

    /** Whether nobody has begun here yet. */
    public static boolean isEmpty(Connection database) throws SQLException {
        try (Statement s = database.createStatement()) {
            for (String table : FILLED) {
                try (ResultSet any = s.executeQuery("SELECT EXISTS (SELECT FROM " + table + ")")) {
                    any.next();
                    if (any.getBoolean(1)) {
                        return false;
                    }
                }
            }
            return true;
        }
    }

    /**
     * Fills an empty database, whole or not at all. Connections rest until somebody resumes them: the installation that this came from may
     * still be at work.
     *
     * @param key what the key file of this installation is known by
     */
    public static Taken read(Connection database, UUID key, InputStream from) throws SQLException, IOException, Unfit {
        database.setAutoCommit(false);
        try (Statement s = database.createStatement();
                ZipInputStream zip = new ZipInputStream(from, StandardCharsets.UTF_8)) {
            s.execute("SET LOCAL statement_timeout = 0");
            About about = about(zip, schema(s), key);
            // nobody begins here meanwhile
            s.execute("LOCK TABLE sign_in, journal IN ACCESS EXCLUSIVE MODE");
            if (!isEmpty(database)) {
                throw new NotEmpty();
            }
            s.execute("TRUNCATE " + String.join(", ", KEPT) + ", search_part CASCADE");
            s.execute("CREATE TEMPORARY TABLE line_taken (line json) ON COMMIT DROP");
            long rows = 0;
            for (String table : KEPT) {
                rows += table(database, s, zip, table);
            }
            if (zip.getNextEntry() != null) {
                throw new Unfit("it holds more than an export does");
            }
            s.execute("UPDATE connection SET state = 'paused', detail = 'taken in from an export', live = false,"
                    + " watched_by = '', due = NULL WHERE state NOT IN"
                    + " ('paused', 'disconnected', 'refused', 'waiting-for-consent')");
            Taken taken = new Taken(about, rows, count(s, "activity"), count(s, "connection"));
            database.commit();
            return taken;
        } catch (SQLException | IOException | Unfit | RuntimeException failed) {
            database.rollback();
            throw failed;
        } finally {
            database.setAutoCommit(true);
        }
    }

    private static About about(ZipInputStream zip, String schema, UUID key) throws IOException, Unfit {
        ZipEntry first = zip.getNextEntry();
        if (first == null || !first.getName().equals(ABOUT)) {
            throw new Unfit("it is no export of everything");
        }
        About about;
        try {
            JsonNode n = JSON.readTree(zip.readNBytes(LONGEST_ABOUT));
            about = new About(
                    n.path("format").asString(""),
                    n.path("schema").asString(""),
                    UUID.fromString(n.path("key").asString("")),
                    Instant.parse(n.path("at").asString("")));
        } catch (RuntimeException damaged) {
            throw new Unfit("it is no export of everything");
        }
        if (!about.format().equals(FORMAT)) {
            throw new Unfit("it is of another format, “" + printable(about.format()) + "”");
        }
        if (!about.schema().equals(schema)) {
            throw new Unfit("it was written with schema " + printable(about.schema()) + ", and this is schema " + schema
                    + ": take it in with the version that wrote it, then bring that up to date");
        }
        if (!about.key().equals(key)) {
            throw new Unfit("it belongs to another key file: bring that along, and set JANDREL_KEY_FILE");
        }
        return about;
    }

    private static String printable(String text) {
        return text.replaceAll("[^A-Za-z0-9._-]", "?").substring(0, Math.min(text.length(), 30));
    }

    private static long table(Connection database, Statement s, ZipInputStream zip, String table)
            throws SQLException, IOException, Unfit {
        ZipEntry entry = zip.getNextEntry();
        if (entry == null || !entry.getName().equals(table + ".ndjson")) {
            throw new Unfit("it lacks " + table + ": it broke off, or was changed");
        }
        try {
            database.unwrap(PGConnection.class).getCopyAPI().copyIn("COPY line_taken FROM STDIN " + PLAIN, zip);
            String columns = columns(s, table);
            // what they keep up to date comes along
            s.execute("ALTER TABLE " + table + " DISABLE TRIGGER USER");
            long rows = s.executeLargeUpdate("INSERT INTO " + table + " (" + columns
                    + ") OVERRIDING SYSTEM VALUE SELECT " + columns + " FROM line_taken, json_populate_record(NULL::"
                    + table + ", line)");
            s.execute("ALTER TABLE " + table + " ENABLE TRIGGER USER");
            numbers(s, table);
            s.execute("TRUNCATE line_taken");
            return rows;
        } catch (SQLException refused) {
            String state = String.valueOf(refused.getSQLState());
            if (state.startsWith("22") || state.startsWith("23")) {
                // what PostgreSQL says of it quotes the row
                throw new Unfit("a row of " + table + " is none of ours, SQL state " + state);
            }
            throw refused;
        }
    }

    private static String columns(Statement s, String table) throws SQLException {
        try (ResultSet r = s.executeQuery("SELECT string_agg(quote_ident(attname), ', ' ORDER BY attnum)"
                + " FROM pg_attribute WHERE attrelid = '" + table
                + "'::regclass AND attnum > 0 AND NOT attisdropped AND attgenerated = ''")) {
            r.next();
            return r.getString(1);
        }
    }

    /** What is numbered goes on behind the last. */
    private static void numbers(Statement s, String table) throws SQLException {
        try (ResultSet r = s.executeQuery("SELECT attname, pg_get_serial_sequence('" + table
                + "', attname) FROM pg_attribute WHERE attrelid = '" + table
                + "'::regclass AND attnum > 0 AND NOT attisdropped AND attidentity <> ''")) {
            if (!r.next()) {
                return;
            }
            s.execute("SELECT setval('" + r.getString(2) + "', coalesce(max(" + r.getString(1)
                    + "), 0) + 1, false) FROM " + table);
        }
    }

    private static String schema(Statement s) throws SQLException {
        try (ResultSet r = s.executeQuery("SELECT version FROM flyway_schema_history WHERE success"
                + " AND version IS NOT NULL ORDER BY installed_rank DESC LIMIT 1")) {
            r.next();
            return r.getString(1);
        }
    }

    private static long count(Statement s, String table) throws SQLException {
        try (ResultSet r = s.executeQuery("SELECT count(*) FROM " + table)) {
            r.next();
            return r.getLong(1);
        }
    }
}
