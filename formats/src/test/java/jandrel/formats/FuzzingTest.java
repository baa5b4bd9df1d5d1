package jandrel.formats;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Some of each, with the memory of a small process. {@code -Dseed=} replays one; {@code bin/fuzz} goes on for longer. */
class FuzzingTest {
    @ParameterizedTest
    @CsvSource({"mail, 3000", "calendar, 500", "reply, 1500", "addresses, 1000", "html, 600"})
    void whateverComesIsReadInBoundedTimeAndMemory(String target, int rounds) throws Exception {
        String seed = System.getProperty("seed");
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Xmx128m",
                "-XX:TieredStopAtLevel=1",
                "-cp",
                System.getProperty("surefire.test.class.path", System.getProperty("java.class.path")),
                "jandrel.formats.Fuzzing",
                // ten times what bin/fuzz lets pass: here only what hangs is to be found
                "seconds",
                "10",
                "target",
                target,
                "rounds",
                seed == null ? String.valueOf(rounds) : "1",
                "seed",
                seed == null ? "1" : seed));
        Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
        String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertThat(process.waitFor()).as(said).isZero();
        assertThat(said).contains("inputs");
    }
}
