package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.AskedFigures.cell;
import static jandrel.acceptance.AskedFigures.day;
import static jandrel.acceptance.AskedFigures.figures;
import static jandrel.acceptance.AskedFigures.total;
import static jandrel.acceptance.Browsing.button;
import static jandrel.acceptance.Browsing.row;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.microsoft.playwright.Download;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.MeasureApi.HistoryOutcome;
import jandrel.api.MeasureApi.MeasureColumn;
import jandrel.api.MeasureApi.MeasureRow;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.api.MeasureApi.RecordChange;
import jandrel.api.MeasureApi.RowsBehind;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingOutcome;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What it takes to win, told from meetings and opportunities: by the API, the client and the console, and to whom. */
class MeasuresTest extends Diaries {
    private static final String SECRET = "Hush-hush terms";
    private static final int DAY = 24;

    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("measures", Map.of("JANDREL_LOOK_EVERY", "1s"));
        h.bothWays();
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private static UUID met(Someone who, String title, int days, boolean secret, String outcome) throws Exception {
        UUID item = who.service()
                .post("/api/meetings", wanted(title, in(days * DAY), who.account(), secret), MadeMeeting.class)
                .item();
        if (!outcome.isEmpty()) {
            who.service().ask("PUT", "/api/meetings/" + item + "/outcome", Client.json(new MeetingOutcome(outcome)));
        }
        return item;
    }

    private static Service signedIn(String login) throws Exception {
        return h.process.signedIn(login, Providers.PASSWORD);
    }

    /** One account, met twice after it had missed the first, and won. */
    private static Someone story(String key) throws Exception {
        Someone who = someone(key);
        met(who, "Introduction to " + key, -30, false, "missed");
        met(who, "Second try with " + key, -28, false, "");
        met(who, "Terms for " + key, -20, false, "");
        h.csv(
                "opportunities",
                "key,name,account,state,stage,value,currency,channel,owner\n" + key + "-deal,Deal of " + key + "," + key
                        + ",won,closed,9000,EUR,fair," + key);
        h.admin.postCsv(
                "/api/directory/opportunity-history",
                "opportunity,at,state,stage,value,currency,channel,owner\n"
                        + key + "-deal," + day(-28) + ",open,talk,9000,EUR,fair," + key + "\n"
                        + key + "-deal," + day(-10) + ",won,closed,9000,EUR,fair," + key,
                HistoryOutcome.class);
        return who;
    }

    @Test
    void figuresOpenToExactlyWhatTheyCount() throws Exception {
        Someone who = story("msr-tess");
        String only = "channel=fair&owner=" + person(who);
        MeasureSheet first = figures(h.admin, "first-meetings", only);
        assertThat(total(first, "held")).isEqualTo(1);
        assertThat(total(first, "missed")).isEqualTo(1);
        assertThat(total(first, "shown up")).isEqualTo(0.5);
        assertThat(total(first, "won")).isEqualTo(1);
        assertThat(first.says()).startsWith("1 first meeting was held and 1 missed. 50 % came;");
        MeasureSheet won = figures(h.admin, "to-win", only);
        assertThat(total(won, "meetings, median")).isEqualTo(2);
        assertThat(total(won, "days, median")).isEqualTo(18);
        MeasureSheet two = figures(h.admin, "after-two-meetings", only);
        assertThat(total(two, "won")).isEqualTo(1);
        RowsBehind missed = h.admin.get("/api/measures/first-meetings/rows?column=missed&" + only, RowsBehind.class);
        assertThat(missed.rows())
                .extracting(MeasureRow::title, MeasureRow::state, MeasureRow::recordName)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple("Introduction to msr-tess", "missed", "Account msr-tess"));
        assertThat(missed.total()).isEqualTo(cell(first, "missed").rows());

        // what is reopened is won no more, and the page of the opportunity says since when and by whom
        h.csv(
                "opportunities",
                "key,name,account,state,stage,value,currency,channel,owner\nmsr-tess-deal,Deal of msr-tess,msr-tess,open,talk,9000,EUR,fair,msr-tess");
        assertThat(figures(h.admin, "to-win", only).total().basis()).isZero();
        RecordChange[] history =
                h.admin.get("/api/records/" + h.record("Deal of msr-tess") + "/history", RecordChange[].class);
        assertThat(history[0].state()).isEqualTo("open");
        assertThat(history[0].by()).isEqualTo("admin");
        assertThat(Arrays.stream(history).map(RecordChange::origin))
                .containsExactly("change", "change", "file", "file");
    }

    private static UUID person(Someone who) throws Exception {
        return java.util.Objects.requireNonNull(who.service()
                .get("/api/session", jandrel.api.SessionApi.Whoami.class)
                .person());
    }

    /** Everybody who could ask, by every way out: who may not read a meeting gets no word of it, and is told that something is missing. */
    @Test
    void whoMayNotReadGetsNoFigureThatIsWrongAndIsToldSo() throws Exception {
        Someone who = someone("msr-vera");
        met(who, SECRET, -12, true, "");
        met(who, "In the open with msr-vera", -11, false, "");
        h.person("msr-boss", "manager");
        h.person("msr-peer", "rep");
        h.admin.addSignIn("msr-watcher", "Watcher", Providers.PASSWORD, "auditor", null);
        String team = "from=" + day(-12) + "&until=" + day(-11) + "&owner=" + person(who);
        MeasureSheet own = figures(who.service(), "first-meetings", team);
        assertThat(total(own, "held")).isEqualTo(1);
        assertThat(own.hidden()).isZero();
        String rows = "/api/measures/first-meetings/rows?column=held&" + team;
        assertThat(who.service().get(rows, RowsBehind.class).rows())
                .extracting(MeasureRow::title)
                .containsExactly(SECRET);
        for (String login : List.of("admin", "msr-boss", "msr-peer", "msr-watcher")) {
            Service asker = login.equals("admin") ? h.admin : signedIn(login);
            for (String measure : List.of(
                    "first-meetings",
                    "after-two-meetings",
                    "to-win",
                    "stages",
                    "last-touch",
                    "contact",
                    "reply-times",
                    "capture",
                    "decided-again",
                    "coverage")) {
                String path = "/api/measures/" + measure;
                MeasureSheet sheet = figures(asker, measure, team);
                assertThat(sheet.toString()).as(login + " " + measure).doesNotContain(SECRET);
                assertThat(sheet.columns()).extracting(MeasureColumn::name).contains(sheet.drawn());
                assertThat(asker.ask("GET", path + "/figures.csv?" + team, "").body())
                        .doesNotContain(SECRET);
                String column = sheet.columns()
                        .get(measure.equals("first-meetings") ? 1 : 0)
                        .name();
                assertThat(asker.ask("GET", path + "/rows.csv?column=" + column.replace(" ", "%20") + "&" + team, "")
                                .body())
                        .doesNotContain(SECRET);
                assertThat(asker.ask("GET", path + "/rows?column=" + column.replace(" ", "%20") + "&" + team, "")
                                .body())
                        .as(login + " " + measure)
                        .doesNotContain(SECRET);
            }
            MeasureSheet sheet = figures(asker, "first-meetings", team);
            assertThat(sheet.total().basis()).as(login).isZero();
            boolean looksAfter = !login.equals("msr-peer");
            assertThat(sheet.hidden()).as(login).isEqualTo(looksAfter ? 1 : 0);
            assertThat(sheet.hiddenSays())
                    .isEqualTo(looksAfter ? "Without 1 account whose first meetings you may not all read." : "");
        }
    }

    @Test
    void whatIsNoMeasureDayOrHistoryIsRefusedAndChangesNothing() throws Exception {
        assertThatThrownBy(() -> figures(h.admin, "luck", "")).hasMessageContaining("There is no measure “luck”");
        assertThatThrownBy(() -> figures(h.admin, "to-win", "by=stage"))
                .hasMessageContaining("cannot be told by “stage”");
        assertThatThrownBy(() -> figures(h.admin, "to-win", "from=yesterday")).hasMessageContaining("is not a day");
        assertThatThrownBy(() -> figures(h.admin, "to-win", "from=2026-02-01&until=2026-01-01"))
                .hasMessageContaining("in no order");
        assertThatThrownBy(() -> h.admin.get("/api/measures/to-win/rows?column=luck", RowsBehind.class))
                .hasMessageContaining("no column “luck”");
        h.account("msr-wilma");
        h.csv("opportunities", "key,name,account\nmsr-wilma-deal,Deal of msr-wilma,msr-wilma");
        long before = h.process.count("SELECT count(*) FROM opportunity_history");
        String heading = "opportunity,at,state,owner\n";
        for (Map.Entry<String, String> bad : Map.of(
                        "nobody," + day(-3) + ",open,",
                        "there is no opportunity with the key",
                        "msr-wilma-deal," + day(3) + ",open,",
                        "it is still to come",
                        "msr-wilma-deal,soon,open,",
                        "is not a day like",
                        "msr-wilma-deal," + day(-3) + ",won,nobody",
                        "there is no person with the key",
                        "msr-wilma-deal," + day(-3) + ",open,\nmsr-wilma-deal," + day(-3) + ",won,",
                        "an earlier line says",
                        "msr-wilma-deal," + day(-3) + ",odd,",
                        "is none of open, won, lost")
                .entrySet()) {
            assertThatThrownBy(() -> h.admin.postCsv(
                            "/api/directory/opportunity-history", heading + bad.getKey(), HistoryOutcome.class))
                    .hasMessageContaining("Nothing was imported")
                    .hasMessageContaining(bad.getValue());
        }
        assertThat(h.process.count("SELECT count(*) FROM opportunity_history")).isEqualTo(before);
        String good = heading + "msr-wilma-deal," + day(-3) + ",open,";
        for (HistoryOutcome expected : List.of(new HistoryOutcome(1, 0), new HistoryOutcome(0, 1))) {
            assertThat(h.admin.postCsv("/api/directory/opportunity-history", good, HistoryOutcome.class))
                    .isEqualTo(expected);
        }
        assertThatThrownBy(() -> h.admin.postCsv(
                        "/api/directory/opportunity-history",
                        heading + "msr-wilma-deal," + day(-3) + ",won,",
                        HistoryOutcome.class))
                .hasMessageContaining("is never changed");
    }

    @Test
    void aFirstMeetingThatWasMovedAndMissedCountsOnceWhereItStandsBeforeTheOneThatWasHeld() throws Exception {
        Someone who = someone("msr-mia");
        UUID first = met(who, "Introduction to msr-mia", -75, false, "");
        assertThat(who.service()
                        .ask("PUT", "/api/meetings/" + first, Client.json(moved(in(-40 * DAY))))
                        .statusCode())
                .isEqualTo(200);
        who.service().ask("PUT", "/api/meetings/" + first + "/outcome", Client.json(new MeetingOutcome("missed")));
        met(who, "Second try with msr-mia", -5, false, "");
        MeasureSheet sheet = figures(h.admin, "first-meetings", "owner=" + person(who));
        assertThat(total(sheet, "missed")).isEqualTo(1);
        assertThat(total(sheet, "held")).isEqualTo(1);
        assertThat(sheet.lines().stream().filter(l -> l.basis() > 0).map(jandrel.api.MeasureApi.MeasureLine::key))
                .containsExactly(day(-40).substring(0, 7), day(-5).substring(0, 7));
    }

    @Test
    void theClientShowsFiguresAndWhatStandsBehindThem() throws Exception {
        story("msr-cleo");
        Client client = Client.of(h);
        assertThat(client.run("measures")).contains("to-win", "How many meetings and days does it take to win?");
        String shown = client.run("measure", "to-win", "--by", "channel");
        assertThat(shown)
                .contains("at the median.", "fair", "█")
                .contains("fair *", "* Fewer than 5, which says little.");
        assertThat(client.run("measure", "to-win", "--by", "channel", "--rows", "won", "--line", "fair"))
                .contains("Deal of msr-cleo");
        assertThat(client.run("measure", "to-win", "--by", "channel", "--csv")).contains("channel,key,basis,won");
        assertThat(client.run("measure", "contact", "--by", "account")).contains("Account msr-cleo", "mail in");
        assertThat(client.run("measure", "contact", "--by", "week", "--rows", "meetings held"))
                .contains("Terms for msr-cleo");
        assertThat(client.run("history", "Deal of msr-cleo")).contains("won", "talk", "9000 EUR", "file");
        assertThat(client.run("measure", "luck")).contains("There is no measure “luck”");
    }

    @Test
    void theConsoleShowsAFigureItsPlotAndWhatItCounts() throws Exception {
        story("msr-coco");
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(
                    page,
                    h.process.url() + "/measures?measure=to-win&by=owner",
                    "admin",
                    ServiceProcess.ADMIN_PASSWORD);
            assertThat(page.getByText("at the median.")).isVisible();
            row(page, "Person msr-coco").getByRole(AriaRole.LINK).first().click();
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("won, Person msr-coco")))
                    .isVisible();
            assertThat(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Deal of msr-coco")))
                    .isVisible();
            for (String kind : List.of("SVG", "PNG")) {
                Download saved = page.waitForDownload(
                        () -> button(page, "Plot as " + kind).click());
                assertThat(saved.suggestedFilename()).isEqualTo("to-win." + kind.toLowerCase(java.util.Locale.ROOT));
                assertThat(saved.path().toFile().length()).isGreaterThan(2_000);
            }
            // the same by reload, and another by its key
            page.reload();
            assertThat(page.getByRole(AriaRole.LINK, new Page.GetByRoleOptions().setName("Deal of msr-coco")))
                    .isVisible();
            // kept by name, and shown again from there
            button(page, "Kept").click();
            page.getByText("Keep what is shown…").click();
            page.getByLabel("Name", new Page.GetByLabelOptions().setExact(true)).fill("Wins by owner");
            page.keyboard().press("Enter");
            assertThat(page.getByRole(AriaRole.DIALOG)).isHidden();
            page.keyboard().press("Escape");
            page.keyboard().press("1");
            assertThat(page.getByText("Do people come")).isVisible();
            button(page, "Kept").click();
            page.getByText("Wins by owner").click();
            assertThat(page.getByText("at the median.")).isVisible();
            assertThat(row(page, "Person msr-coco")).isVisible();
            page.keyboard().press("7");
            button(page, "Working hours").click();
            page.getByLabel("Days off, one a line").fill("2026-12-25");
            button(page, "Save").click();
            assertThat(page.getByRole(AriaRole.DIALOG)).isHidden();
            assertThat(h.process.count("SELECT count(*) FROM working_hours WHERE hours LIKE '%2026-12-25%'"))
                    .isEqualTo(1);
            page.keyboard().press("8");
            assertThat(page.getByText("were seen:")).isVisible();
            row(page, "All").getByRole(AriaRole.LINK).first().click();
            Download rows = page.waitForDownload(() ->
                    page.locator("article.rows").getByText("Save as workbook").click());
            assertThat(rows.suggestedFilename()).isEqualTo("capture-rows.xlsx");
            // the oldest of them stands on no first page of the decisions
            page.locator("article.rows li a").last().click();
            assertThat(page.getByLabel("Decision", new Page.GetByLabelOptions().setExact(true)))
                    .isVisible();
            page.goBack();
            assertThat(page.getByText("were seen:")).isVisible();
            page.keyboard().press("Escape");
            page.keyboard().press("4");
            assertThat(page.getByText("Do people come")).isHidden();
            button(page, "Stages, channels, results").click();
            button(page, "Add a stage").click();
            page.getByLabel("Stage 1").fill("talk");
            page.getByLabel("Channels, one a line").fill("fair\nwebsite");
            button(page, "Save").click();
            assertThat(page.getByRole(AriaRole.DIALOG)).isHidden();
            assertThat(h.process.count("SELECT count(*) FROM stage WHERE name = 'talk'"))
                    .isEqualTo(1);
            assertThat(row(page, "talk")).isVisible();
        }
    }
}
