package jandrel.service.kernel;

import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Properties;
import java.util.UUID;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.CoreErrorCode;
import org.flywaydb.core.api.FlywayException;
import org.flywaydb.core.api.output.ValidateOutput;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationEnvironmentPreparedEvent;
import org.springframework.context.ApplicationListener;
import org.springframework.core.env.ConfigurableEnvironment;
import org.springframework.core.env.Environment;

/**
 * Finds out, before anything of the service is put together, whether it can run here, and brings the database up to date. What is wrong
 * is said in one line, with what to do about it, and the process ends with a code of sysexits.h.
 */
public final class StartUp implements ApplicationListener<ApplicationEnvironmentPreparedEvent> {
    private static final Logger LOG = LoggerFactory.getLogger(StartUp.class);
    /** EX_UNAVAILABLE: it may be there later. */
    static final int UNAVAILABLE = 69;
    /** EX_CONFIG: it stays so until somebody does something about it. */
    public static final int CONFIGURATION = 78;

    private static final String PATIENCE_SECONDS = "5";

    /** What else is done before the service is put together, when the database is up to date. */
    public interface Step {
        void take(ConfigurableEnvironment settings) throws Cannot;
    }

    /** It cannot run. */
    public static final class Cannot extends Exception {
        private static final long serialVersionUID = 1L;
        private final int code;

        /** @param why in one line, with what to do about it */
        public Cannot(int code, String why) {
            super(why);
            this.code = code;
        }

        int code() {
            return code;
        }
    }

    private final Step then;

    public StartUp(Step then) {
        this.then = then;
    }

    @Override
    public void onApplicationEvent(ApplicationEnvironmentPreparedEvent event) {
        if ("onRefresh".equals(System.getProperty("spring.context.exit"))
                || Boolean.getBoolean("spring.aot.processing")) {
            // it is being built: an archive of classes is made, or it is found out what is wired to what, without a
            // database
            return;
        }
        try {
            check(event.getEnvironment());
            then.take(event.getEnvironment());
        } catch (Cannot cannot) {
            LOG.error("cannot start: {}", cannot.getMessage());
            System.exit(cannot.code());
        }
    }

    private static void check(Environment settings) throws Cannot {
        port(wanted(settings, "jandrel.address"), wanted(settings, "jandrel.port"));
        String url = wanted(settings, "spring.datasource.url");
        String user = wanted(settings, "spring.datasource.username");
        String password = wanted(settings, "spring.datasource.password");
        try (Connection database = connected(url, user, password)) {
            // what a newer version did is not passed over
            Flyway flyway = Flyway.configure()
                    .dataSource(url, user, password)
                    .ignoreMigrationPatterns(new String[0])
                    .load();
            boolean older = isOlder(flyway);
            key(database, Path.of(wanted(settings, "jandrel.key-file")).toAbsolutePath());
            if (older) {
                migrate(flyway);
            }
        } catch (SQLException failed) {
            throw new Cannot(
                    UNAVAILABLE, "the database does not answer what it is asked, SQL state " + failed.getSQLState());
        }
    }

    /** As text; empty where it is not set. */
    public static String wanted(Environment settings, String name) {
        return Objects.requireNonNullElse(settings.getProperty(name), "");
    }

    private static void port(String address, String port) throws Cannot {
        try (ServerSocket free = new ServerSocket()) {
            free.setReuseAddress(true);
            free.bind(new InetSocketAddress(InetAddress.getByName(address), Integer.parseInt(port)));
        } catch (IOException | IllegalArgumentException taken) {
            throw new Cannot(
                    CONFIGURATION,
                    "port " + port + " of " + address
                            + " cannot be listened at: end what uses it, or set JANDREL_PORT");
        }
    }

    private static Connection connected(String url, String user, String password) throws Cannot {
        if (!url.startsWith("jdbc:postgresql:")) {
            throw cannotConnect(url, user, "");
        }
        Properties p = new Properties();
        p.put("user", user);
        p.put("password", password);
        p.put("loginTimeout", PATIENCE_SECONDS);
        p.put("connectTimeout", PATIENCE_SECONDS);
        p.put("socketTimeout", "60");
        try {
            return DriverManager.getConnection(url, p);
        } catch (SQLException refused) {
            throw cannotConnect(url, user, Objects.requireNonNullElse(refused.getSQLState(), ""));
        }
    }

    /** States by the appendix “Error Codes” of PostgreSQL's manual. */
    private static Cannot cannotConnect(String url, String user, String state) {
        String at = place(url);
        return switch (state) {
            case "28P01", "28000" ->
                new Cannot(
                        CONFIGURATION,
                        "the database at " + at + " does not let “" + user
                                + "” in: set JANDREL_DATABASE_USER and JANDREL_DATABASE_PASSWORD");
            case "3D000" ->
                new Cannot(
                        CONFIGURATION,
                        "there is no database " + at + ": create it, owned by “" + user
                                + "”, or set JANDREL_DATABASE_URL");
            case "57P03", "53300" ->
                new Cannot(UNAVAILABLE, "the database at " + at + " takes no connections now: try again in a moment");
            case "08001", "08006", "08004" ->
                new Cannot(
                        UNAVAILABLE,
                        "no database answers at " + at + ": start PostgreSQL there, or set JANDREL_DATABASE_URL");
            default ->
                new Cannot(
                        CONFIGURATION,
                        "the database at " + at + " cannot be used" + (state.isEmpty() ? "" : ", SQL state " + state)
                                + ": JANDREL_DATABASE_URL must be like jdbc:postgresql://HOST:5432/NAME");
        };
    }

    /** Host, port and name: what follows may hold a password. */
    private static String place(String url) {
        try {
            URI uri = URI.create(url.startsWith("jdbc:") ? url.substring(5) : url);
            return uri.getHost() == null
                    ? "JANDREL_DATABASE_URL"
                    : uri.getHost() + (uri.getPort() < 0 ? "" : ":" + uri.getPort()) + uri.getPath();
        } catch (IllegalArgumentException malformed) {
            return "JANDREL_DATABASE_URL";
        }
    }

    /** Older is to be brought up to date; newer, or changed by hand, is left alone. */
    private static boolean isOlder(Flyway flyway) throws Cannot {
        List<ValidateOutput> differ = flyway.validateWithResult().invalidMigrations;
        for (ValidateOutput invalid : differ) {
            if (invalid.errorDetails.errorCode == CoreErrorCode.RESOLVED_VERSIONED_MIGRATION_NOT_APPLIED) {
                continue;
            }
            boolean newer = invalid.filepath == null || invalid.filepath.isEmpty();
            throw new Cannot(
                    CONFIGURATION,
                    newer
                            ? "the database was last used by a newer version (schema " + invalid.version
                                    + "): start that version, or restore a backup from before it"
                            : "the database’s schema " + invalid.version
                                    + " is not the one that this version makes: start the version that made it");
        }
        return !differ.isEmpty();
    }

    private static void migrate(Flyway flyway) throws Cannot {
        try {
            flyway.migrate();
        } catch (FlywayException failed) {
            String state = "";
            for (Throwable at = failed; at != null; at = at.getCause()) {
                state = at instanceof SQLException sql ? ", SQL state " + sql.getSQLState() : state;
            }
            throw new Cannot(
                    CONFIGURATION,
                    "the database’s schema cannot be brought up to date" + state
                            + ": its user must own the database, and its disk must not be full");
        }
    }

    private static void key(Connection database, Path file) throws SQLException, Cannot {
        Optional<UUID> belongs = asked(database, "installation", "SELECT key_check FROM installation");
        boolean filled = belongs.isPresent()
                || asked(database, "sign_in", "SELECT id FROM sign_in LIMIT 1").isPresent();
        if (!Files.exists(file)) {
            if (filled) {
                throw new Cannot(
                        CONFIGURATION,
                        "the key file " + file + " is missing, but the database was filled with one: put it back from"
                                + " your backup, or set JANDREL_KEY_FILE");
            }
            return;
        }
        Keys keys = keys(file);
        boolean other = belongs.isPresent()
                ? !belongs.get().equals(keys.itemKeys().check())
                : filled && !opensWhatIsThere(database, keys);
        if (other) {
            throw new Cannot(
                    CONFIGURATION,
                    "the key file " + file + " is not the one that this database was filled with: set JANDREL_KEY_FILE"
                            + " or JANDREL_DATABASE_URL");
        }
    }

    /** Of a database that was filled before it was noted by which key. */
    private static boolean opensWhatIsThere(Connection database, Keys keys) throws SQLException {
        try (Statement statement = database.createStatement();
                ResultSet any =
                        statement.executeQuery("SELECT id, secret FROM connection WHERE secret IS NOT NULL LIMIT 1")) {
            if (any.next()) {
                keys.vault().unlock(any.getObject(1, UUID.class), any.getBytes(2));
            }
            return true;
        } catch (IllegalStateException | GeneralSecurityException otherKey) {
            return false;
        }
    }

    private static Keys keys(Path file) throws Cannot {
        try {
            return Keys.of(file);
        } catch (IOException | GeneralSecurityException unusable) {
            throw new Cannot(
                    CONFIGURATION,
                    "the key file " + file + " cannot be read or is damaged: put it back from your backup, readable by"
                            + " the user “" + System.getProperty("user.name") + "” alone");
        }
    }

    /** One id; nothing where there is none, or no such table yet. */
    private static Optional<UUID> asked(Connection database, String table, String query) throws SQLException {
        try (Statement statement = database.createStatement()) {
            try (ResultSet there = statement.executeQuery("SELECT to_regclass('" + table + "') IS NOT NULL")) {
                there.next();
                if (!there.getBoolean(1)) {
                    return Optional.empty();
                }
            }
            try (ResultSet found = statement.executeQuery(query)) {
                return found.next() ? Optional.of(found.getObject(1, UUID.class)) : Optional.empty();
            }
        }
    }
}
