package jandrel.acceptance;

import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import jandrel.store.EmptyDatabase;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashMap;
import java.util.Map;

/** The real service, with a database of its own at the stand's PostgreSQL that tests may look into. */
final class Running implements AutoCloseable {
    final ServiceProcess service;
    private final Stand stand = Stand.fromEnvironment();
    private final String database;
    private final Path folder;
    private final Map<String, String> more;

    Running(String database) throws IOException, SQLException, InterruptedException {
        this(database, Map.of());
    }

    /** @param more settings, as the environment names them */
    Running(String database, Map<String, String> more) throws IOException, SQLException, InterruptedException {
        this(made(database), more, folder(database));
    }

    private Running(String database, Map<String, String> more, Path folder) throws IOException, InterruptedException {
        this.database = database;
        this.more = more;
        this.folder = folder;
        service = node();
    }

    private static String made(String database) throws SQLException {
        EmptyDatabase.make(database);
        return database;
    }

    /** On a database in which the service has to make its tables itself, as on a new machine. */
    static Running withoutTables(String database) throws IOException, SQLException, InterruptedException {
        EmptyDatabase.withoutTables(database);
        return new Running(database, Map.of(), folder(database));
    }

    /** Another installation, with a copy of this one's key file, that begins with what left this one. */
    Running takenIn(String name, Path file) throws IOException, SQLException, InterruptedException {
        Map<String, String> settings = new HashMap<>(more);
        settings.put("JANDREL_TAKE_IN", file.toString());
        Path beside = folder(name);
        Files.copy(keyFile(), beside.resolve(keyFile().getFileName()));
        return new Running(made(name), settings, beside);
    }

    private static Path folder(String name) throws IOException {
        return Files.createTempDirectory(Files.createDirectories(Path.of("target")), name)
                .toAbsolutePath();
    }

    /** One more node of the same installation: the same database and the same keys. */
    ServiceProcess node() throws IOException, InterruptedException {
        return new ServiceProcess(Path.of("../service/target/app"), folder, "-Xmx512m", settings(more));
    }

    private Map<String, String> settings(Map<String, String> more) {
        Map<String, String> all = new HashMap<>(Map.of(
                "JANDREL_DATABASE_URL",
                url(database),
                "JANDREL_DATABASE_PASSWORD",
                stand.value("POSTGRES_PASSWORD"),
                "JANDREL_TRUSTED_CERTIFICATES",
                stand.value("CA"),
                "JAVA_TOOL_OPTIONS",
                "-XX:TieredStopAtLevel=1",
                // what it costs to guess a password would be half of what these tests cost
                "JANDREL_SIGN_INS_PASSWORD_MEMORY",
                "1",
                "JANDREL_LOOK_EVERY",
                "1s"));
        all.putAll(more);
        return all;
    }

    Path log() {
        return folder.resolve("service.log");
    }

    Path keyFile() {
        return folder.resolve("jandrel.key");
    }

    String url() {
        return service.url();
    }

    Service signedIn(String login, String password) throws IOException, InterruptedException {
        return service.signedIn(login, password);
    }

    private String url(String name) {
        return "jdbc:postgresql://" + stand.value("POSTGRES") + "/" + name;
    }

    private Connection connection(String name) throws SQLException {
        return DriverManager.getConnection(url(name), "jandrel", stand.value("POSTGRES_PASSWORD"));
    }

    /** Straight to the database, behind the service's back. */
    Connection database() throws SQLException {
        return connection(database);
    }

    /** As a superuser of PostgreSQL does it, once. */
    void prepareReaders() throws IOException, InterruptedException {
        Process prepared = new ProcessBuilder("../bin/stand", "readers", stand.value("DIR"), database)
                .inheritIO()
                .start();
        if (prepared.waitFor() != 0) {
            throw new IOException("PostgreSQL could not be prepared for readers");
        }
    }

    /** As a reporting program signs in. */
    Connection reader(String login, String password) throws SQLException {
        return DriverManager.getConnection(url(database), login, password);
    }

    /** A single number straight from the database. */
    long count(String sql) throws SQLException {
        try (Connection c = connection(database);
                Statement s = c.createStatement();
                var rows = s.executeQuery(sql)) {
            rows.next();
            return rows.getLong(1);
        }
    }

    /** Behind the service's back. */
    void run(String sql) throws SQLException {
        try (Connection c = connection(database);
                Statement s = c.createStatement()) {
            s.execute(sql);
        }
    }

    @Override
    public void close() {
        service.close();
    }
}
