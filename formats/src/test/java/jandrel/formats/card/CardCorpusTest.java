package jandrel.formats.card;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Cards in three versions and many dialects: what is read of each, and that it comes back as it was. */
class CardCorpusTest {
    static java.util.List<String> names() {
        return Cards.names();
    }

    static java.util.List<String> readable() {
        return Cards.readable();
    }

    @Test
    void thereAreEnough() {
        assertThat(Cards.names()).hasSizeGreaterThan(120);
        assertThat(Cards.readable()).hasSizeGreaterThan(120);
    }

    /** With {@code -Djandrel.golden=write} what comes out is written down, to be read by whoever changes it. */
    @ParameterizedTest
    @MethodSource("names")
    void whatIsReadOfIt(String name) throws IOException {
        Path beside = Cards.FOLDER.resolve(name + ".txt");
        if ("write".equals(System.getProperty("jandrel.golden"))) {
            Files.writeString(beside, Cards.words(name));
        }
        assertThat(Cards.words(name)).isEqualTo(Files.readString(beside));
    }

    @ParameterizedTest
    @MethodSource("readable")
    void itComesBackUnchanged(String name) throws UnreadableCard {
        byte[] bytes = Cards.bytes(name);
        int mark = bytes[0] == (byte) 0xef ? 3 : 0;
        CardFile card = CardFile.read(bytes, Cards.PHONES);
        card.put(card.details(), java.time.Instant.EPOCH, "");
        assertThat(card.bytes()).isEqualTo(Arrays.copyOfRange(bytes, mark, bytes.length));
    }
}
