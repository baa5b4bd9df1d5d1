package jandrel.service.retention;

import static jandrel.service.kernel.StartUp.wanted;

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
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.env.ConfigurableEnvironment;
import org.springframework.core.env.MapPropertySource;

/**
 * Fills an empty database from an export of everything, where {@code jandrel.take-in} names one, before anything of the service is put
 * together. A database that is filled already is left as it is, so that the setting may stay.
 */
public final class TakingIn {
    /** When what was just taken in had been written; not set where nothing was. */
    static final String TAKEN = "jandrel.taken-in";

    private static final Logger LOG = LoggerFactory.getLogger(TakingIn.class);

    private TakingIn() {}

    /** A step of {@link StartUp}. */
    public static void takeIn(ConfigurableEnvironment settings) throws StartUp.Cannot {
        if (wanted(settings, "jandrel.take-in").isEmpty()) {
            return;
        }
        Path file = Path.of(wanted(settings, "jandrel.take-in")).toAbsolutePath();
        Path key = Path.of(wanted(settings, "jandrel.key-file")).toAbsolutePath();
        // one without a time limit for its answers: a large table takes minutes
        try (Connection database = DriverManager.getConnection(
                wanted(settings, "spring.datasource.url"),
                wanted(settings, "spring.datasource.username"),
                wanted(settings, "spring.datasource.password"))) {
            if (!Everything.isEmpty(database)) {
                LOG.info("nothing is taken in from {}: the database is filled", file);
                return;
            }
            if (!Files.isReadable(file)) {
                throw cannot("the export " + file + " is missing, or the user " + System.getProperty("user.name")
                        + ", as which the service runs, may not read it: change that, or set JANDREL_TAKE_IN");
            }
            if (!Files.isReadable(key)) {
                throw cannot("the key file " + key + " is missing, or the user " + System.getProperty("user.name")
                        + ", as which the service runs, may not read it: an export is opened by the key file of the"
                        + " installation that wrote it; bring it along, or set JANDREL_KEY_FILE");
            }
            SealedStreams sealed = KeyFile.sealedStreams(key);
            try (InputStream from = sealed.open(new BufferedInputStream(Files.newInputStream(file)))) {
                taken(settings, Everything.read(database, sealed.check(), from));
            }
        } catch (Everything.NotEmpty another) {
            LOG.info("nothing is taken in from {}: another node has just done so", file);
        } catch (Everything.Unfit unfit) {
            throw cannot("the export " + file + " cannot be taken in: " + unfit.getMessage());
        } catch (SQLException failed) {
            throw cannot("the export " + file + " could not be taken in, SQL state " + failed.getSQLState());
        } catch (IOException | GeneralSecurityException unreadable) {
            throw cannot("the export " + file + " was sealed by another key file, or is damaged");
        }
    }

    private static StartUp.Cannot cannot(String why) {
        return new StartUp.Cannot(StartUp.CONFIGURATION, why);
    }

    private static void taken(ConfigurableEnvironment settings, Everything.Taken taken) {
        LOG.info(
                "taken in, as of {}: {} rows, {} of them activities; {} connections rest until they are resumed, when the"
                        + " installation that this came from has been stopped",
                taken.about().at(),
                taken.rows(),
                taken.activities(),
                taken.connections());
        settings.getPropertySources()
                .addFirst(new MapPropertySource(
                        TAKEN, Map.of(TAKEN, taken.about().at().toString())));
    }
}
