package jandrel.acceptance;

import static jandrel.acceptance.ExportedLines.all;
import static jandrel.acceptance.ExportedLines.cursor;
import static jandrel.acceptance.ExportedLines.of;
import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;

/** Decisions and records as files: all of them, and later only what changed. */
@ExtendWith(Harbour.Shared.class)
class StreamedFilesTest {
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(2, ChronoUnit.DAYS);
    private final Harbour harbour;

    StreamedFilesTest(Harbour harbour) {
        this.harbour = harbour;
    }

    @Test
    void decisionsAndRecordsLeaveTheSameWay(@TempDir Path folder) throws Exception {
        String una = harbour.person("exp-una", "rep");
        harbour.person("exp-ulf", "rep");
        UUID account = harbour.account("exp-una");
        harbour.providers.mail(una, "", DAY, letter("exp-u1", DAY, "bram@exp-una.example", una, "Told talk", "x"));
        harbour.providers.mail(una, "", DAY, letter("exp-u2", DAY, "eve@exp-odd.example", una, "Odd talk", "x"));
        harbour.connectMail("exp-una");
        until(() -> harbour.timeline(account).size(), 1);
        harbour.settle();
        Service own = harbour.process.signedIn("exp-una", Providers.PASSWORD);
        List<JsonNode> mine = all(own, "decisions", "");
        assertThat(of(mine, "decision"))
                .extracting(l ->
                        l.path("verdict").asString("") + " " + l.path("subject").asString(""))
                .containsExactlyInAnyOrder("logged Told talk", "waiting Odd talk");
        assertThat(mine.get(mine.size() - 1).path("count").asInt(0)).isEqualTo(2);
        assertThat(of(all(harbour.process.signedIn("exp-ulf", Providers.PASSWORD), "decisions", ""), "decision"))
                .isEmpty();
        assertThat(of(all(own, "decisions", "?since=" + cursor(mine)), "decision"))
                .isEmpty();
        List<JsonNode> records = all(own, "records", "");
        assertThat(of(records, "record"))
                .filteredOn(l -> l.path("key").asString("").equals("exp-una-bram"))
                .singleElement()
                .satisfies(l -> {
                    assertThat(l.path("kind").asString("")).isEqualTo("contact");
                    assertThat(l.path("values").path("addresses").asString("")).isEqualTo("bram@exp-una.example");
                    assertThat(l.path("values").path("account").asString("")).isEqualTo("exp-una");
                });
        // another address alone is a change of its record, and of what it is on
        harbour.csv(
                "contacts",
                "key,name,addresses,account\nexp-una-bram,Bram of exp-una,bram@exp-una.example eve@exp-odd.example,exp-una");
        until(() -> harbour.timeline(account).size(), 2);
        assertThat(of(all(own, "records", "?since=" + cursor(records)), "record"))
                .filteredOn(l -> l.path("key").asString("").equals("exp-una-bram"))
                .singleElement()
                .satisfies(l -> assertThat(l.path("values").path("addresses").asString(""))
                        .contains("eve@exp-odd.example"));
        assertThat(of(all(own, "decisions", "?since=" + cursor(mine)), "decision"))
                .extracting(l -> l.path("subject").asString(""))
                .contains("Odd talk");
        Client client = Client.as(harbour, "exp-una");
        for (String what : List.of("decisions", "records")) {
            Path file = folder.resolve(what + ".ndjson");
            assertThat(client.run("export", what, "--file", file.toString()))
                    .contains("jandrel export " + what + " --file FILE --since ");
            List<String> whole = Files.readAllLines(file);
            Files.writeString(file, String.join("\n", whole.subList(0, 3)) + "\n{\"type\":\"");
            assertThat(client.run("export", what, "--file", file.toString(), "--resume"))
                    .contains("Written to");
            assertThat(Files.readAllLines(file).stream().filter(l -> l.contains("\"id\"")))
                    .hasSize(whole.size() - 2);
        }
        assertThat(client.run("export", "weather", "--file", folder.resolve("x").toString()))
                .contains("activities, decisions, records or everything");
        assertThat(client.run(
                        "export",
                        "records",
                        "--text",
                        "--file",
                        folder.resolve("y").toString()))
                .contains("--text is for activities");
    }
}
