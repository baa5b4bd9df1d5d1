package jandrel.service.retention;

import jandrel.service.kernel.KeyFile;
import jandrel.service.kernel.SealedStreams;
import jandrel.service.kernel.StartUp;
import jandrel.store.retention.Everything;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.GeneralSecurityException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.Objects;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationEnvironmentPreparedEvent;
import org.springframework.context.ApplicationListener;
import org.springframework.core.env.Environment;

/**
 * Fills an empty database from an export of everything, where {@code jandrel.take-in} names one, before anything of the service is put
 * together. A database that is filled already is left as it is, so that the setting may stay.
 */
public final class TakingIn implements ApplicationListener<ApplicationEnvironmentPreparedEvent> {
    /** When what was just taken in had been written. */
    static final String TAKEN = "jandrel.taken-in";

    private static final Logger LOG = LoggerFactory.getLogger(TakingIn.class);

    @Override
    public void onApplicationEvent(ApplicationEnvironmentPreparedEvent event) {
        String file = text(event.getEnvironment(), "jandrel.take-in");
        if (file.isEmpty() || "onRefresh".equals(System.getProperty("spring.context.exit"))) {
            return;
        }
        String why = takeIn(event.getEnvironment(), Path.of(file).toAbsolutePath());
        if (!why.isEmpty()) {
            LOG.error("cannot start: {}", why);
            System.exit(StartUp.CONFIGURATION);
        }
    }

    private static String text(Environment settings, String name) {
        return Objects.requireNonNullElse(settings.getProperty(name), "");
    }

    /** @return why not; empty where it is well */
    private static String takeIn(Environment settings, Path file) {
        Path key = Path.of(text(settings, "jandrel.key-file")).toAbsolutePath();
        try (Connection database = DriverManager.getConnection(
                text(settings, "spring.datasource.url"),
                text(settings, "spring.datasource.username"),
                text(settings, "spring.datasource.password"))) {
            if (!Everything.isEmpty(database)) {
                LOG.info("nothing is taken in from {}: the database is filled", file);
                return "";
            }
            if (!Files.isReadable(file)) {
                return "the export " + file + " cannot be read: set JANDREL_TAKE_IN";
            }
            if (!Files.exists(key)) {
                return "the key file " + key + " is missing: an export is opened by the one of the installation that"
                        + " wrote it; bring it along, or set JANDREL_KEY_FILE";
            }
            SealedStreams sealed = KeyFile.sealedStreams(key);
            try (InputStream from = sealed.open(new BufferedInputStream(Files.newInputStream(file)))) {
                Everything.Taken taken = Everything.read(database, sealed.check(), from);
                LOG.info(
                        "taken in, as of {}: {} rows, {} of them activities; {} connections rest until they are resumed,"
                                + " when the installation that this came from has been stopped",
                        taken.about().at(),
                        taken.rows(),
                        taken.activities(),
                        taken.connections());
                System.setProperty(TAKEN, taken.about().at().toString());
                return "";
            }
        } catch (Everything.NotEmpty another) {
            LOG.info("nothing is taken in from {}: another node has just done so", file);
            return "";
        } catch (Everything.Unfit unfit) {
            return "the export " + file + " cannot be taken in: " + unfit.getMessage();
        } catch (SQLException failed) {
            return "the export " + file + " could not be taken in, SQL state " + failed.getSQLState();
        } catch (IOException | GeneralSecurityException unreadable) {
            return "the export " + file + " was sealed by another key file, or is damaged";
        }
    }
}
