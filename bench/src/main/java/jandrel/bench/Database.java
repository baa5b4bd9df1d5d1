package jandrel.bench;

import jandrel.demo.Stand;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.locks.LockSupport;
import org.jspecify.annotations.Nullable;

/** One database of the stand's PostgreSQL. */
final class Database {
    private final Stand stand;
    private final String name;
    private @Nullable Connection asking;

    /** Makes it anew. */
    Database(Stand stand, String name) throws SQLException {
        this.stand = stand;
        this.name = name;
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

    void run(String sql) throws SQLException {
        try (Connection c = open();
                Statement s = c.createStatement()) {
            s.execute(sql);
        }
    }
}
