package jandrel.bench;

import jandrel.demo.Stand;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;

/** One database of the stand's PostgreSQL. */
final class Database {
    private final Stand stand;
    private final String name;

    /** Makes it anew. */
    Database(Stand stand, String name) throws SQLException {
        this.stand = stand;
        this.name = name;
        try (Connection c = open("jandrel");
                Statement s = c.createStatement()) {
            s.execute("DROP DATABASE IF EXISTS " + name + " WITH (FORCE)");
            s.execute("CREATE DATABASE " + name);
        }
    }

    Connection open() throws SQLException {
        return open(name);
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
        try (Connection c = open();
                Statement s = c.createStatement();
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
