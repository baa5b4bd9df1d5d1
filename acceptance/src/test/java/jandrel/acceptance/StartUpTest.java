package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.Stand;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What somebody sees whose installation cannot run: one line that says what to do, and a code for whatever started it. */
class StartUpTest {
    private static final int UNAVAILABLE = 69;
    private static final int CONFIGURATION = 78;
    private static final Path LAYOUT =
            Path.of("../service/target/app").toAbsolutePath().normalize();
    private static final Stand STAND = Stand.fromEnvironment();

    @TempDir
    private static Path folder;

    private static Running filled;

    @BeforeAll
    static void fill() throws Exception {
        filled = Running.withoutTables("start_up");
        filled.service.stop();
        Files.copy(filled.keyFile(), folder.resolve("key"));
    }

    @AfterAll
    static void close() {
        filled.close();
    }

    private static String url(String name) {
        return "jdbc:postgresql://" + STAND.value("POSTGRES") + "/" + name;
    }

    /** With everything as it should be, but for what is given. */
    private static void refuses(int code, String says, Map<String, String> settings) throws Exception {
        Map<String, String> all = new HashMap<>(Map.of(
                "JANDREL_DATABASE_URL", url("start_up"),
                "JANDREL_DATABASE_PASSWORD", STAND.value("POSTGRES_PASSWORD"),
                "JANDREL_KEY_FILE", folder.resolve("key").toString(),
                "JANDREL_PORT", "0"));
        all.putAll(settings);
        ProcessBuilder builder = new ProcessBuilder(new ArrayList<>(List.of(
                "java",
                "-XX:+UseParallelGC",
                "-XX:TieredStopAtLevel=1",
                "@" + LAYOUT.resolve("options"),
                "-jar",
                LAYOUT.resolve("service.jar").toString())));
        builder.environment().putAll(all);
        Path told = Files.createTempFile(folder, "told", ".log");
        Process process =
                builder.redirectErrorStream(true).redirectOutput(told.toFile()).start();
        try {
            assertThat(process.waitFor(Harbour.seconds(30).toMillis(), TimeUnit.MILLISECONDS))
                    .as("it ends")
                    .isTrue();
        } finally {
            process.destroyForcibly();
        }
        String said = Files.readString(told);
        assertThat(said).contains(says);
        assertThat(said.strip().lines()).as(said).hasSize(1);
        assertThat(said).doesNotContain(STAND.value("POSTGRES_PASSWORD"));
        assertThat(process.exitValue()).as(said).isEqualTo(code);
    }

    @Test
    void noDatabaseAnswers() throws Exception {
        refuses(
                UNAVAILABLE,
                "no database answers at 127.0.0.1:9/jandrel",
                Map.of("JANDREL_DATABASE_URL", "jdbc:postgresql://127.0.0.1:9/jandrel"));
    }

    @Test
    void theDatabaseDoesNotLetItIn() throws Exception {
        refuses(CONFIGURATION, "does not let “jandrel” in", Map.of("JANDREL_DATABASE_PASSWORD", "wrong-password"));
    }

    @Test
    void thereIsNoSuchDatabase() throws Exception {
        refuses(CONFIGURATION, "there is no database", Map.of("JANDREL_DATABASE_URL", url("nothing_here")));
    }

    @Test
    void theAddressIsNone() throws Exception {
        refuses(CONFIGURATION, "must be like jdbc:postgresql://", Map.of("JANDREL_DATABASE_URL", "postgres here"));
    }

    @Test
    void aNewerVersionWasHere() throws Exception {
        filled.run(
                "INSERT INTO flyway_schema_history SELECT 99, '99', 'later', 'SQL', 'V99__later.sql', 1, 'x', now(), 1, true");
        try {
            refuses(CONFIGURATION, "newer version (schema 99)", Map.of());
        } finally {
            filled.run("DELETE FROM flyway_schema_history WHERE version = '99'");
        }
    }

    @Test
    void theSchemaIsAnother() throws Exception {
        filled.run("UPDATE flyway_schema_history SET checksum = checksum + 1 WHERE version = '3'");
        try {
            refuses(CONFIGURATION, "schema 3 is not the one", Map.of());
        } finally {
            filled.run("UPDATE flyway_schema_history SET checksum = checksum - 1 WHERE version = '3'");
        }
    }

    @Test
    void theKeyFileIsMissingDamagedOrAnother() throws Exception {
        refuses(
                CONFIGURATION,
                "is missing, but the database was filled with one",
                Map.of("JANDREL_KEY_FILE", folder.resolve("none").toString()));
        assertThat(folder.resolve("none")).doesNotExist();
        Path damaged = Files.writeString(folder.resolve("damaged"), "damaged");
        refuses(CONFIGURATION, "cannot be read or is damaged", Map.of("JANDREL_KEY_FILE", damaged.toString()));
        try (Running other = new Running("start_up_other")) {
            refuses(
                    CONFIGURATION,
                    "is not the one that this database was filled with",
                    Map.of("JANDREL_KEY_FILE", other.keyFile().toString()));
        }
    }

    @Test
    void thePortIsTaken() throws IOException, Exception {
        try (ServerSocket taken = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            refuses(
                    CONFIGURATION,
                    "cannot be listened at",
                    Map.of("JANDREL_PORT", String.valueOf(taken.getLocalPort())));
        }
    }
}
