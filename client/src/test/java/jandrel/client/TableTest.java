package jandrel.client;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TableTest {
    private static String printed(Table table, int width) {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        table.print(new PrintStream(bytes, true, StandardCharsets.UTF_8), width);
        return bytes.toString(StandardCharsets.UTF_8);
    }

    @Test
    void columnsAreAlignedAndNumbersStandToTheRight() {
        Table table = new Table("name", ">seen");
        table.row("Tobias", 7);
        table.row("Maren Aldous", 1_250);
        assertThat(printed(table, 0))
                .isEqualTo(String.format("name          seen%nTobias           7%nMaren Aldous  1250%n"));
    }

    @Test
    void onANarrowTerminalTheWidestColumnGivesWayAndTheIdNever() {
        Table table = new Table("subject", "id");
        table.row("a very long subject that nobody can read to its end", "0123456789abcdef0123456789abcdef0123");
        assertThat(printed(table, 60).lines())
                .allMatch(l -> l.length() <= 60)
                .anyMatch(l -> l.contains("…") && l.endsWith("0123456789abcdef0123456789abcdef0123"));
    }

    @Test
    void nothingInMailSteersTheTerminal() {
        assertThat(Table.printable("a\u001b[31mb\u202ec\r\nd\u009bx")).isEqualTo("a [31mb c d x");
    }

    @Test
    void countsAndTimesAreSaidInFull() {
        assertThat(Out.of(1, 1, "activities")).isEqualTo("1 activity");
        assertThat(Out.of(5, 1_200, "decisions")).isEqualTo("5 of 1,200 decisions");
        Out out = new Out(System.out, false, 0, ZoneId.of("Europe/Oslo"));
        assertThat(out.time(Instant.parse("2026-05-04T22:30:00Z"))).isEqualTo("2026-05-05 00:30");
        assertThat(out.time(Instant.parse("2026-05-04T00:00:00Z"), true)).isEqualTo("2026-05-04 all day");
    }

    @Test
    void theSignInIsKeptForItsUserAloneAndTheEnvironmentGoesFirst(@TempDir Path folder) throws Exception {
        Home home = new Home(Map.of("XDG_CONFIG_HOME", folder.toString()));
        assertThatThrownBy(home::signIn)
                .isInstanceOfSatisfying(Trouble.class, t -> assertThat(t.code()).isEqualTo(Trouble.REACH));
        Path file = home.keep(new Home.SignIn("http://a", "t"));
        home.keep(new Home.SignIn("http://b", "u"));
        assertThat(home.signIn()).isEqualTo(new Home.SignIn("http://b", "u"));
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file)))
                .isEqualTo("rw-------");
        Home other =
                new Home(Map.of("XDG_CONFIG_HOME", folder.toString(), "JANDREL_URL", "http://c", "JANDREL_TOKEN", "v"));
        assertThat(other.signIn()).isEqualTo(new Home.SignIn("http://c", "v"));
        home.forget();
        assertThatThrownBy(home::signIn).isInstanceOf(Trouble.class);
    }
}
