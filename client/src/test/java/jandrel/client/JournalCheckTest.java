package jandrel.client;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class JournalCheckTest {
    @TempDir
    private Path folder;

    private final List<String> lines = new ArrayList<>();

    @BeforeEach
    void fourEntries() throws Exception {
        String head = "0".repeat(64);
        for (int n = 1; n <= 4; n++) {
            String entry = "{\"number\":" + n + ",\"previous\":\"" + head + "\",\"what\":\"" + "x".repeat(n) + "\"}";
            head = HexFormat.of()
                    .formatHex(MessageDigest.getInstance("SHA-256").digest(entry.getBytes(StandardCharsets.UTF_8)));
            lines.add("{\"entry\":" + entry + ",\"hash\":\"" + head + "\"}");
        }
    }

    private int check() throws Exception {
        return JournalCheck.check(Files.write(folder.resolve("journal.ndjson"), lines));
    }

    @Test
    void whatWasExportedFits() throws Exception {
        assertThat(check()).isZero();
    }

    @Test
    void aChangedEntryIsFound() throws Exception {
        lines.set(2, lines.get(2).replace("xxx", "xyx"));
        assertThat(check()).isEqualTo(Trouble.NO);
    }

    @Test
    void anEntryThatIsGoneIsFound() throws Exception {
        lines.remove(1);
        assertThat(check()).isEqualTo(Trouble.NO);
    }

    @Test
    void entriesInAnotherOrderAreFound() throws Exception {
        lines.add(lines.remove(1));
        assertThat(check()).isEqualTo(Trouble.NO);
    }

    @Test
    void whatIsNoJournalIsSaidToBeNone() throws Exception {
        lines.set(0, "hello");
        assertThat(check()).isEqualTo(Trouble.NO);
    }
}
