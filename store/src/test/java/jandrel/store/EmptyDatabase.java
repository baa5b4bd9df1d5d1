package jandrel.store;

import jandrel.demo.Stand;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import org.flywaydb.core.Flyway;
import org.jspecify.annotations.Nullable;

/**
 * A database of a test's own. The migrations run once for each PostgreSQL and each state of theirs; what tests then get is a copy, which
 * takes a tenth of the time.
 */
public final class EmptyDatabase {
    private static @Nullable String model;

    private EmptyDatabase() {}

    /** With all tables and nothing in them. */
    public static synchronized void make(String name) throws SQLException {
        try (Connection c = server();
                Statement s = c.createStatement()) {
            // several JVMs run tests; a database is copied by one at a time
            s.execute("SELECT pg_advisory_lock(7301)");
            anew(s, name, " TEMPLATE " + model(s));
        }
    }

    /** Where the tables are still to be made. */
    public static void withoutTables(String name) throws SQLException {
        try (Connection c = server();
                Statement s = c.createStatement()) {
            anew(s, name, "");
        }
    }

    private static void anew(Statement s, String name, String how) throws SQLException {
        s.execute("DROP DATABASE IF EXISTS " + name + " WITH (FORCE)");
        s.execute("CREATE DATABASE " + name + how);
    }

    private static String model(Statement s) throws SQLException {
        String known = model;
        if (known != null) {
            return known;
        }
        String made = "empty_" + stamp();
        try (ResultSet r = s.executeQuery("SELECT 1 FROM pg_database WHERE datname = '" + made + "'")) {
            if (!r.next()) {
                anew(s, "being_made", "");
                migrations("being_made").migrate();
                s.execute("ALTER DATABASE being_made RENAME TO " + made);
            }
        }
        model = made;
        return made;
    }

    /** Another one as soon as a migration is added or changed. */
    private static String stamp() {
        List<String> all = Arrays.stream(migrations("jandrel").info().all())
                .map(m -> m.getScript() + m.getChecksum())
                .sorted()
                .toList();
        return Integer.toHexString(all.hashCode());
    }

    private static Flyway migrations(String database) {
        return Flyway.configure()
                .dataSource(url(database), "jandrel", password())
                .locations("classpath:db/migration")
                .load();
    }

    private static Connection server() throws SQLException {
        return DriverManager.getConnection(url("jandrel"), "jandrel", password());
    }

    private static String url(String database) {
        return "jdbc:postgresql://" + Stand.fromEnvironment().value("POSTGRES") + "/" + database;
    }

    private static String password() {
        return Stand.fromEnvironment().value("POSTGRES_PASSWORD");
    }
}
