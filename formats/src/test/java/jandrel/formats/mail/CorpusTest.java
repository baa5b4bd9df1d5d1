package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Broken and strange messages, one a file, each with what must be read of it beside it. */
class CorpusTest {
    private static final Path FOLDER = Path.of("src/test/resources/mail");
    private static final Instant RECEIVED = Instant.parse("2026-05-04T12:00:00Z");

    static Stream<Path> messages() throws IOException {
        try (Stream<Path> files = Files.list(FOLDER)) {
            return files.filter(f -> f.toString().endsWith(".eml")).sorted().toList().stream();
        }
    }

    @ParameterizedTest
    @MethodSource("messages")
    void isReadAsItMustBe(Path message) throws IOException {
        Path expected = Path.of(message.toString().replace(".eml", ".facts"));
        String told = Told.of(new MailReader(MailLimits.USUAL).read(Files.readAllBytes(message), RECEIVED, "here"));
        assertThat(told).isEqualTo(Files.readString(expected));
    }

    @Test
    void thereAreEnoughOfThem() throws IOException {
        assertThat(messages().count()).isGreaterThanOrEqualTo(150);
    }
}
