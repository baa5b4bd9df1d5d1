package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.ServiceProcess;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;

/** The command line, as a user runs it. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class ClientTest {
    @TempDir
    static Path config;

    private final Harbour h;

    ClientTest(Harbour harbour) {
        h = harbour;
    }

    private record Run(int code, String out, String err) {}

    private Run run(String... words) throws Exception {
        return run(Map.of(), words);
    }

    private Run run(Map<String, String> environment, String... words) throws Exception {
        List<String> command = new ArrayList<>(List.of("../bin/jandrel"));
        command.addAll(List.of(words));
        ProcessBuilder builder = new ProcessBuilder(command);
        builder.environment().put("XDG_CONFIG_HOME", config.toString());
        builder.environment().put("TZ", "UTC");
        builder.environment().putAll(environment);
        Path out = Files.createTempFile(config, "out", "");
        Path err = Files.createTempFile(config, "err", "");
        Process process =
                builder.redirectOutput(out.toFile()).redirectError(err.toFile()).start();
        process.getOutputStream().close();
        int code = process.waitFor();
        return new Run(code, Files.readString(out), Files.readString(err));
    }

    @BeforeAll
    void signIn() throws Exception {
        String jo = h.person("jo", "rep");
        h.account("client");
        Instant at = Instant.now().minus(2, ChronoUnit.DAYS);
        h.providers.mail(
                jo,
                "",
                at,
                letter("client-1", at, "Bram \u001b[31m <bram@client.example>", jo, "Chains", "Heavier ones."));
        h.connectMail("jo");
        h.settle();
        Run run = run(
                Map.of("JANDREL_PASSWORD", ServiceProcess.ADMIN_PASSWORD),
                "sign-in",
                "--url",
                h.process.url(),
                "--login",
                "admin");
        assertThat(run.code()).as(run.err()).isZero();
        Path token = config.resolve("jandrel/sign-in");
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(token)))
                .isEqualTo("rw-------");
    }

    @Test
    void peopleGetATable() throws Exception {
        Run run = run("timeline", "Account client");
        assertThat(run.code()).isZero();
        assertThat(run.out())
                .contains("Account client, account", "when", "Chains", "1 activity")
                .doesNotContain("\u001b");
    }

    @Test
    void programsGetOneObjectALine() throws Exception {
        Run run = run("timeline", "Account client", "--json");
        assertThat(run.out().lines()).hasSize(1).allMatch(line -> line.startsWith("{\"id\":\"") && line.endsWith("}"));
    }

    @Test
    void whyTellsTheReasonsInTheSameWordsAsTheService() throws Exception {
        String id = h.timeline(h.record("Account client")).get(0).id().toString();
        Run run = run("why", id);
        assertThat(run.out())
                .contains(
                        "LOGGED",
                        "1. bram@client.example is an address of Bram of client.",
                        "seen in “inbox” of Person jo");
        h.decisions("item=" + id)
                .get(0)
                .trail()
                .forEach(sentence -> assertThat(run.out()).contains(sentence));
        assertThat(run("show", id).out()).contains("Heavier ones.", "on the timeline of  Account client");
    }

    @Test
    void exitCodesTellProgramsWhatHappened() throws Exception {
        assertThat(run("status").code()).isZero();
        assertThat(run("timeline", "nobody of that name").code()).isEqualTo(1);
        assertThat(run("search", "zzzzqqq").code()).isEqualTo(1);
        assertThat(run("sink").code()).isEqualTo(2);
        assertThat(run("policy", "set", "--help").out()).contains("Usage: jandrel policy set", "--back-days");
        assertThat(run("why", "not-an-id").code()).isEqualTo(2);
        assertThat(run(Map.of("JANDREL_URL", "http://127.0.0.1:9", "JANDREL_TOKEN", "x"), "status")
                        .code())
                .isEqualTo(3);
        assertThat(run(Map.of("JANDREL_URL", h.process.url(), "JANDREL_TOKEN", "forged"), "status")
                        .code())
                .isEqualTo(3);
        assertThat(run(Map.of("XDG_CONFIG_HOME", "/nowhere"), "status").err())
                .hasLineCount(1)
                .contains("jandrel sign-in");
    }

    @Test
    void aFileThatDoesNotFitIsRefusedWholeWithItsLines() throws Exception {
        Path file = config.resolve("contacts.csv");
        Files.writeString(
                file,
                "key,name,addresses,account\ngood,Good,good@x.example,\nbad,,nope,ghost\n",
                StandardCharsets.UTF_8);
        Run run = run("import", "contacts", file.toString());
        assertThat(run.code()).isEqualTo(1);
        assertThat(run.err())
                .contains(
                        "Nothing was imported",
                        "line 3, name: the cell is empty",
                        "line 3, addresses: “nope” is not a mail address");
        assertThat(run("records", "Good").code()).isEqualTo(1);
        Files.writeString(file, "key,name,addresses\ngood,Good Fellow,good@x.example\n");
        assertThat(run("import", "contacts", file.toString()).out()).contains("1 added, 0 updated, 0 as they were");
        assertThat(run("import", "contacts", file.toString()).out()).contains("0 added, 0 updated, 1 as they were");
    }

    @Test
    void exclusionsComeAndGo() throws Exception {
        assertThat(run("exclude", "corvane.example").err()).contains("a domain of our own company");
        Run many = run("exclude", "print.example", "Jo Plum <jo@agency.example>", "--reason", "agency");
        assertThat(many.out()).startsWith("2 added, 0 excluded already");
        assertThat(run("exclusions").out()).contains("print.example", "jo@agency.example", "agency");
        Run unknown = run("include", "print.example", "nobody.example");
        assertThat(unknown.code()).isEqualTo(1);
        assertThat(unknown.err()).contains("“nobody.example” is not excluded, so none was removed");
        assertThat(run("exclusions").out()).contains("print.example");
        Run gone = run("include", "print.example", "jo@agency.example");
        assertThat(gone.out())
                .contains("print.example is no longer excluded", "jo@agency.example is no longer excluded");
        assertThat(run("exclusions").out()).doesNotContain("print.example", "agency.example");
        assertThat(run("include", "print.example").code()).isEqualTo(1);
    }

    @Test
    void whatIsWrittenByStrangersIsHarmlessInASpreadsheet() throws Exception {
        Run run = run("timeline", "Account client", "--csv");
        assertThat(run.out().lines().findFirst()).contains("at,ends,kind,visibility,subject,people,place,whose");
    }

    @Test
    void aRecordIsSavedAsFilesThatOtherProgramsOpen(@TempDir Path folder) throws Exception {
        Instant day = Instant.now().truncatedTo(ChronoUnit.HOURS).minus(2, ChronoUnit.DAYS);
        String ida = h.person("save-ida", "rep");
        UUID account = h.account("save-ida");
        h.providers.mail(
                ida,
                "",
                day,
                letter("save-3", day, "bram@save-ida.example", ida, "Mooring plan", "From the quay:\nforty buoys"));
        h.connectMail("save-ida");
        until(() -> h.timeline(account).size(), 1);
        Client client = Client.as(h, "save-ida");
        Path mail = folder.resolve("mail.mbox");
        Path meetings = folder.resolve("meetings.ics");
        Path contacts = folder.resolve("contacts.vcf");
        assertThat(client.run(
                        "save",
                        "Account save-ida",
                        "--mail",
                        mail.toString(),
                        "--meetings",
                        meetings.toString(),
                        "--contacts",
                        contacts.toString()))
                .contains("Written to " + mail, "Written to " + contacts);
        assertThat(Files.readString(mail))
                .startsWith("From bram@save-ida.example ")
                .contains("Subject: Mooring plan", "To: ", ida, "\n>From the quay:");
        assertThat(Files.readString(meetings)).startsWith("BEGIN:VCALENDAR").endsWith("END:VCALENDAR\r\n");
        assertThat(Files.readString(contacts)).contains("FN:Bram of save-ida", "bram@save-ida.example");
        assertThat(client.run("save", "Account save-ida", "--mail", mail.toString()))
                .contains("is there already");
        assertThat(client.run("save", "Nobody at all", "--mail", mail.toString() + "2"))
                .contains("Nobody at all");
        assertThat(folder.resolve("mail.mbox2")).doesNotExist();
    }
}
