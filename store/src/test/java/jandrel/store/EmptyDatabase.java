package jandrel.store;

import jandrel.demo.Stand;
import java.io.IOException;
import java.io.InputStream;
import java.net.URL;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.zip.CRC32;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.MigrationInfo;

/**
 * A database with all tables and nothing in them. The migrations run once for each PostgreSQL and each state of theirs; what tests then get is
 * a copy, which takes a tenth of the time.
 */
public final class EmptyDatabase {
    private EmptyDatabase() {}

    /** Makes it anew. */
    public static void make(String name) throws SQLException {
        String password = Stand.fromEnvironment().value("POSTGRES_PASSWORD");
        String server = "jdbc:postgresql://" + Stand.fromEnvironment().value("POSTGRES") + "/";
        try (Connection c = DriverManager.getConnection(server + "jandrel", "jandrel", password);
                Statement s = c.createStatement()) {
            // several JVMs run tests; a database is copied by one at a time
            s.execute("SELECT pg_advisory_lock(7301)");
            String model = "empty_" + stamp(server, password);
            if (!exists(s, model)) {
                s.execute("DROP DATABASE IF EXISTS being_made WITH (FORCE)");
                s.execute("CREATE DATABASE being_made");
                flyway(server + "being_made", password).migrate();
                s.execute("ALTER DATABASE being_made RENAME TO " + model);
            }
            s.execute("DROP DATABASE IF EXISTS " + name + " WITH (FORCE)");
            s.execute("CREATE DATABASE " + name + " TEMPLATE " + model);
        }
    }

    private static Flyway flyway(String url, String password) {
        return Flyway.configure()
                .dataSource(url, "jandrel", password)
                .locations("classpath:db/migration")
                .load();
    }

    private static boolean exists(Statement s, String name) throws SQLException {
        try (ResultSet r = s.executeQuery("SELECT 1 FROM pg_database WHERE datname = '" + name + "'")) {
            return r.next();
        }
    }

    /** Another one as soon as a migration is added or changed. */
    private static String stamp(String server, String password) {
        CRC32 all = new CRC32();
        Arrays.stream(flyway(server + "jandrel", password).info().all())
                .map(MigrationInfo::getScript)
                .sorted()
                .forEach(script -> add(all, script));
        return Long.toHexString(all.getValue());
    }

    private static void add(CRC32 all, String script) {
        URL file = EmptyDatabase.class.getResource("/db/migration/" + script);
        if (file == null) {
            throw new IllegalStateException("no file of the migration " + script);
        }
        try (InputStream in = file.openStream()) {
            all.update(in.readAllBytes());
        } catch (IOException unreadable) {
            throw new IllegalStateException("unreadable: " + script, unreadable);
        }
    }
}
