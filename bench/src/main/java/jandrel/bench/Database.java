package jandrel.bench;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;

/** One database of the stand's PostgreSQL. */
final class Database {
    private final Stand stand;
    private final String name;
    private @Nullable Connection asking;

    /** Makes it anew. */
    Database(Stand stand, String name) throws SQLException {
        this(stand, name, false);
    }

    /** @param kept whether it is used as the run before left it */
    Database(Stand stand, String name, boolean kept) throws SQLException {
        this.stand = stand;
        this.name = name;
        if (kept) {
            return;
        }
        try (Connection c = open("jandrel");
                Statement s = c.createStatement()) {
            drop(s);
            s.execute("CREATE DATABASE " + name);
        }
    }

    /** The server's own clean-up of tables may be at work in it, and cannot be sent away. */
    private void drop(Statement s) throws SQLException {
        for (int left = 20; ; left--) {
            try {
                s.execute("DROP DATABASE IF EXISTS " + name + " WITH (FORCE)");
                return;
            } catch (SQLException busy) {
                if (left == 0) {
                    throw busy;
                }
                LockSupport.parkNanos(1_000_000_000L);
            }
        }
    }

    Connection open() throws SQLException {
        return open(name);
    }

    /** Kept open: asking now and then must not cost what is measured. */
    private Connection asking() throws SQLException {
        Connection now = asking;
        if (now == null || now.isClosed()) {
            now = open(name);
            asking = now;
        }
        return now;
    }

    private Connection open(String database) throws SQLException {
        return DriverManager.getConnection(url(database), "jandrel", stand.value("POSTGRES_PASSWORD"));
    }

    String url() {
        return url(name);
    }

    private String url(String database) {
        return "jdbc:postgresql://" + stand.value("POSTGRES") + "/" + database;
    }

    long count(String sql) throws SQLException {
        try (Statement s = asking().createStatement();
                var rows = s.executeQuery(sql)) {
            rows.next();
            return rows.getLong(1);
        }
    }

    String text(String sql) throws SQLException {
        try (Statement s = asking().createStatement();
                var rows = s.executeQuery(sql)) {
            rows.next();
            return rows.getString(1);
        }
    }

    void run(String sql) throws SQLException {
        try (Connection c = open();
                Statement s = c.createStatement()) {
            s.execute(sql);
        }
    }

    /**
     * The service, on this database.
     *
     * @param heap such as {@code -Xmx1g}
     * @param every how long a source is left alone between two looks
     */
    ServiceProcess service(String heap, String every) throws IOException, InterruptedException {
        Map<String, String> settings = Map.of(
                "JANDREL_DATABASE_URL",
                url(),
                "JANDREL_DATABASE_PASSWORD",
                stand.value("POSTGRES_PASSWORD"),
                "JANDREL_TRUSTED_CERTIFICATES",
                stand.value("CA"),
                "JANDREL_LOOK_EVERY",
                every);
        return new ServiceProcess(
                Path.of("service/target/app"), Files.createTempDirectory("jandrel-bench"), heap, settings);
    }

    /** Waits until all that is connected is read, and that is so much. */
    void whole(long expected) throws Exception {
        while (count("SELECT count(*) FROM connection WHERE state = 'connecting'") > 0) {
            Thread.sleep(20);
        }
        long seen = count("SELECT count(*) FROM sighting");
        if (seen != expected) {
            throw new IllegalStateException("captured " + seen + " of " + expected);
        }
    }

    /**
     * Connects somebody, and waits until all of theirs is recorded.
     *
     * @param expected how many decisions there are then, of everybody
     * @return seconds
     */
    double captured(Service admin, String person, String server, long expected) throws Exception {
        long began = System.nanoTime();
        admin.post(
                "/api/connections",
                new NewConnection(person, server, person + "@corvane.example", Providers.PASSWORD),
                Object.class);
        whole(expected);
        return (System.nanoTime() - began) / 1e9;
    }
}
