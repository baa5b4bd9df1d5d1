package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.AskedFigures.day;
import static jandrel.acceptance.AskedFigures.figures;
import static jandrel.acceptance.AskedFigures.total;
import static jandrel.acceptance.Harbour.letter;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.DecisionApi.DecisionChange;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.DecisionApi.DecisionPage;
import jandrel.api.DirectoryApi.PersonInfo;
import jandrel.api.ExclusionApi.ExclusionInfo;
import jandrel.api.MeasureApi.KeptSelection;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureRow;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.api.MeasureApi.RowsBehind;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;

/** How long customers wait, what was captured, and selections of figures that are kept: by the API and the client. */
@ExtendWith(Harbour.Shared.class)
class MeasuresOfMailTest {
    private static final String SECRET = "Hush-hush terms";
    private final Harbour h;

    MeasuresOfMailTest(Harbour harbour) {
        h = harbour;
    }

    private Service signedIn(String login) throws Exception {
        return h.process.signedIn(login, Providers.PASSWORD);
    }

    /** All parts of a workbook, which is a ZIP file (ECMA-376). */
    private static String parts(Path workbook) throws Exception {
        StringBuilder all = new StringBuilder();
        try (ZipFile zip = new ZipFile(workbook.toFile())) {
            for (ZipEntry e : Collections.list(zip.entries())) {
                all.append(new String(zip.getInputStream(e).readAllBytes(), StandardCharsets.UTF_8));
            }
        }
        return all.toString();
    }

    @Test
    void whatWasCapturedIsToldByReasonAndOpensToExactlyItsDecisions(@TempDir Path folder) throws Exception {
        String who = h.person("msr-carl", "rep");
        h.person("msr-carla", "rep");
        UUID account = h.account("msr-carl");
        Instant at = Instant.now().minus(3, ChronoUnit.DAYS);
        h.providers.mail(who, "", at, letter("msr-c1", at, "bram@msr-carl.example", who, "On the timeline", "x"));
        h.providers.mail(who, "", at, letter("msr-c2", at, "eve@msr-nobody.example", who, "Of a stranger", "x"));
        h.providers.mail(who, "", at, letter("msr-c3", at, "it@corvane.example", who, SECRET, "x"));
        h.connectMail("msr-carl");
        Harbour.until(() -> h.timeline(account).size(), 1);
        h.settle();
        UUID carl = id("msr-carl");
        String only = "by=reason&from=" + day(-4) + "&owner=" + carl;
        MeasureSheet sheet = figures(h.admin, "capture", only);
        for (Map.Entry<String, String> column : Map.of(
                        "seen", "", "logged", "logged", "waiting", "waiting", "left out", "left-out")
                .entrySet()) {
            DecisionPage decided =
                    h.admin.get("/api/decisions?person=" + carl + "&verdict=" + column.getValue(), DecisionPage.class);
            assertThat(total(sheet, column.getKey())).as(column.getKey()).isEqualTo((double) decided.total());
            RowsBehind behind = h.admin.get(
                    "/api/measures/capture/rows?column=" + column.getKey().replace(" ", "%20") + "&" + only,
                    RowsBehind.class);
            assertThat(behind.total()).isEqualTo(decided.total());
            assertThat(behind.rows())
                    .extracting(MeasureRow::record)
                    .containsExactlyInAnyOrderElementsOf(
                            decided.decisions().stream().map(DecisionInfo::id).toList());
        }
        assertThat(total(sheet, "left out")).isEqualTo(1);
        assertThat(sheet.says()).startsWith("3 messages and meetings were seen: 1 logged, 1 waiting, 1 left out");
        MeasureLine internal = sheet.lines().stream()
                .filter(l -> !l.key().isEmpty())
                .findFirst()
                .orElseThrow();
        assertThat(h.admin
                        .get(
                                "/api/measures/capture/rows?column=seen&line=" + internal.key() + "&" + only,
                                RowsBehind.class)
                        .rows())
                .singleElement()
                .satisfies(r -> assertThat(r.state()).isEqualTo("left-out"));
        // each month, team and policy says the same in all
        for (String by : List.of("week", "month", "owner", "team", "policy")) {
            assertThat(total(figures(h.admin, "capture", only.replace("by=reason", "by=" + by)), "seen"))
                    .as(by)
                    .isEqualTo(3);
        }
        // a rep is told of nobody else's, and reads nothing of them
        MeasureSheet others = figures(signedIn("msr-carla"), "capture", only);
        assertThat(others.total().basis()).isZero();
        assertThat(others.says()).isEqualTo("Nothing was seen in this time.");

        Client client = Client.of(h);
        Path book = folder.resolve("seen.xlsx");
        assertThat(client.run("measure", "capture", "--by", "reason", "--owner", "msr-carl", "--file", book.toString()))
                .contains("Written to");
        assertThat(parts(book)).contains("left out", "<v>1</v>").doesNotContain("<f>");
        Path rows = folder.resolve("rows.csv");
        client.run("measure", "capture", "--owner", "msr-carl", "--rows", "logged", "--file", rows.toString());
        assertThat(Files.readString(rows)).contains("decision,Person msr-carl");
        assertThat(client.run("measure", "capture", "--owner", "msr-carl", "--file", "figures.pdf"))
                .contains("neither in .csv nor in .xlsx");
    }

    /** An exclusion takes something off a timeline, and gives it back: each time it is told what changed, and by what. */
    @Test
    void whatWasDecidedAgainIsToldAndSoIsWhoWasCovered() throws Exception {
        String who = h.person("msr-dana", "rep");
        h.person("msr-dora", "rep");
        UUID account = h.account("msr-dana");
        Instant at = Instant.now().minus(3, ChronoUnit.DAYS);
        h.providers.mail(who, "", at, letter("msr-d1", at, "bram@msr-dana.example", who, SECRET, "x"));
        String dana = "&owner=" + id("msr-dana");
        MeasureSheet before = figures(h.admin, "coverage", "from=" + day(0) + dana);
        assertThat(total(before, "covered")).isEqualTo(1);
        assertThat(total(before, "not connected")).isEqualTo(1);
        h.connectMail("msr-dana");
        Harbour.until(() -> h.timeline(account).size(), 1);
        assertThat(total(figures(h.admin, "coverage", "from=" + day(0) + dana), "connected"))
                .isEqualTo(1);
        assertThat(figures(h.admin, "coverage", "from=" + day(0)).says())
                .contains("covered at the end")
                .startsWith("Of ");

        h.admin.post("/api/exclusions", Map.of("text", "bram@msr-dana.example", "reason", "asked us to"), Object.class);
        Harbour.until(() -> h.timeline(account).size(), 0);
        h.settle();
        String only = "from=" + day(-1) + dana;
        MeasureSheet sheet = figures(h.admin, "decided-again", only);
        assertThat(sheet.says())
                .isEqualTo("1 decision changed: 0 are logged now, 1 is no longer, 0 changed otherwise.");
        assertThat(sheet.lines())
                .singleElement()
                .satisfies(l -> assertThat(l.label()).matches(".+, version \\d+"));
        MeasureRow row = h.admin
                .get("/api/measures/decided-again/rows?column=no%20longer%20logged&" + only, RowsBehind.class)
                .rows()
                .get(0);
        String decision = "/api/decisions/" + row.record();
        assertThat(h.admin.get(decision + "/changes", DecisionChange[].class))
                .singleElement()
                .satisfies(c -> assertThat(c.before() + " " + c.after()).isEqualTo("logged left-out"));
        h.admin.delete("/api/exclusions/"
                + Arrays.stream(h.admin.get("/api/exclusions", ExclusionInfo[].class))
                        .filter(e -> e.what().equals("bram@msr-dana.example"))
                        .findFirst()
                        .orElseThrow()
                        .id());
        Harbour.until(() -> h.timeline(account).size(), 1);
        h.settle();
        for (String by : List.of("version", "week", "month", "owner", "team", "reason")) {
            MeasureSheet both = figures(h.admin, "decided-again", only + "&by=" + by);
            assertThat(total(both, "changed")).as(by).isEqualTo(2);
            assertThat(total(both, "logged now")).as(by).isEqualTo(1);
        }
        assertThat(Client.of(h).run("why", row.record().toString()))
                .contains("LOGGED")
                .contains(": left-out, then logged")
                .contains(": logged, then left-out")
                .contains("version ");
        // nobody else is told of it
        Service other = signedIn("msr-dora");
        assertThat(figures(other, "decided-again", only).total().basis()).isZero();
        assertThat(figures(other, "coverage", only).total().basis()).isZero();
        assertThat(other.ask("GET", "/api/decisions/" + UUID.randomUUID() + "/changes", "")
                        .statusCode())
                .isEqualTo(404);
    }

    private UUID id(String key) throws Exception {
        return Arrays.stream(h.admin.get("/api/people", PersonInfo[].class))
                .filter(p -> p.key().equals(key))
                .findFirst()
                .orElseThrow()
                .id();
    }

    @Test
    void howLongCustomersWaitIsCountedInTheHoursThatTheCompanyWorks() throws Exception {
        String who = h.person("msr-rolf", "rep");
        UUID account = h.account("msr-rolf");
        Instant monday = Instant.now()
                .atZone(ZoneOffset.UTC)
                .with(TemporalAdjusters.previous(DayOfWeek.MONDAY))
                .truncatedTo(ChronoUnit.DAYS)
                .toInstant()
                .minus(7, ChronoUnit.DAYS);
        Instant asked = monday.plus(10, ChronoUnit.HOURS);
        Instant answered = asked.plus(24, ChronoUnit.HOURS);
        h.providers.mail(who, "", asked, letter("msr-r1", asked, "bram@msr-rolf.example", who, "When?", "x"));
        h.providers.mail(who, "", answered, letter("msr-r2", answered, who, "bram@msr-rolf.example", "Re: When?", "x"));
        h.connectMail("msr-rolf");
        Harbour.until(() -> h.timeline(account).size(), 2);
        Client client = Client.of(h);
        assertThat(client.run("working-hours", "mon-fri=09:00-17:00", "--zone", "UTC", "--holidays", ""))
                .contains("monday     09:00  17:00")
                .contains("Days off: none");
        String only = "account=" + account + "&from=" + day(-20);
        MeasureSheet sheet = figures(h.admin, "reply-times", only);
        assertThat(total(sheet, "answered")).isEqualTo(1);
        assertThat(total(sheet, "hours, median")).isEqualTo(8);
        assertThat(sheet.says())
                .isEqualTo(
                        "1 message wanted an answer: 1 got one, half of them within 8 working hours; 0 still waiting,"
                                + " 0 never answered. Hours are those of Mon to Fri 09:00–17:00 (UTC).");
        assertThat(client.run("working-hours", "mon-sun=00:00-00:00")).contains("sunday");
        assertThat(total(figures(h.admin, "reply-times", only), "hours, median"))
                .isEqualTo(24);
        assertThat(client.run("working-hours", "mon=17:00-09:00")).contains("the end after the beginning");
        assertThat(client.run("working-hours", "someday=09:00-17:00")).contains("there is no day “som”");
        // the sign of that one means the opposite to a database
        assertThat(client.run("working-hours", "--zone", "GMT+2")).contains("There is no zone “GMT+2”");
        assertThat(client.run("working-hours", "--holidays", "soon")).contains("“soon” is not like 2026-12-25");
        assertThat(Client.as(h, "msr-rolf").run("working-hours", "mon=09:00-10:00"))
                .contains("Your role does not allow this");
        assertThat(client.run("working-hours")).contains("sunday");
    }

    @Test
    void aSelectionIsKeptByNameForOneselfAlone() throws Exception {
        h.person("msr-kay", "manager");
        Client kay = Client.as(h, "msr-kay");
        assertThat(kay.run("measure", "contact", "--by", "week", "--team", "Baltic", "--keep", "Weeks"))
                .contains("Kept as “Weeks”");
        assertThat(kay.run("kept-figures")).contains("Weeks", "contact", "by=week", "team=Baltic");
        assertThat(Client.of(h).run("kept-figures")).contains("No kept selections");
        assertThat(kay.run("measure", "to-win", "--by", "stage", "--keep", "Odd"))
                .contains("cannot be told by “stage”");
        // no mail goes out from this service
        assertThat(kay.run("measure", "contact", "--keep", "Mail", "--weekly")).contains("No mail goes out from here");
        KeptSelection kept = signedIn("msr-kay").get("/api/kept-figures", KeptSelection[].class)[0];
        assertThat(h.admin.ask("DELETE", "/api/kept-figures/" + kept.id(), "").statusCode())
                .isEqualTo(404);
        assertThat(kay.run("kept-figures", "--remove", "weeks")).contains("kept no longer");
        assertThat(kay.run("kept-figures")).contains("No kept selections");
    }
}
