package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.soon;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.BoundingBox;
import jandrel.api.ConnectionApi.ConnectionInfo;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** The console's calendar in headless Chromium. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class CalendarPageTest {
    /** Next week, so that nothing of it has been held whatever today is. */
    private static final LocalDate MONDAY =
            LocalDate.now(ZoneOffset.UTC).with(TemporalAdjusters.next(DayOfWeek.MONDAY));

    private final List<String> errors = new ArrayList<>();
    private final Harbour h;
    private Browsing browsing;
    private Page page;
    private Service me;
    private UUID account;

    CalendarPageTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeAll
    void open() throws Exception {
        browsing = Browsing.open();
        h.bothWays();
        h.person("vesna", "rep");
        account = h.account("vesna");
        h.connectCalendar("vesna");
        h.settle();
        me = h.process.signedIn("vesna", Providers.PASSWORD);
    }

    @AfterAll
    void close() {
        browsing.close();
    }

    @BeforeEach
    void newPage() {
        page = browsing.page();
        page.onPageError(errors::add);
    }

    @AfterEach
    void noErrors() {
        page.context().close();
        Assertions.assertThat(errors).isEmpty();
    }

    private void signIn(String path) {
        Browsing.signIn(page, h.process.url() + path, "vesna", Providers.PASSWORD);
    }

    private UUID made(String title, Instant begins) throws Exception {
        return me.post("/api/meetings", Diaries.wanted(title, begins, account), MadeMeeting.class)
                .item();
    }

    private static Instant monday(int hour) {
        return MONDAY.atTime(hour, 0).toInstant(ZoneOffset.UTC);
    }

    private Locator block(String title) {
        return page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName(title));
    }

    @Test
    void draggingAMeetingMovesItOnBothSides() throws Exception {
        UUID item = made("Dragged along", monday(10));
        signIn("/calendar?view=week&at=" + MONDAY);
        assertThat(block("Dragged along")).isVisible();
        BoundingBox box = block("Dragged along").boundingBox();
        page.mouse().move(box.x + 20, box.y + 10);
        page.mouse().down();
        // two hours down; an hour is 44 pixels tall
        page.mouse().move(box.x + 20, box.y + 10 + 44, new com.microsoft.playwright.Mouse.MoveOptions().setSteps(4));
        page.mouse().move(box.x + 20, box.y + 10 + 88, new com.microsoft.playwright.Mouse.MoveOptions().setSteps(4));
        page.mouse().up();
        soon().until(() -> me.get("/api/meetings/" + item, MeetingDetail.class)
                .meeting()
                .begins()
                .equals(monday(12)));
        assertThat(page.getByRole(AriaRole.STATUS).filter(new Locator.FilterOptions().setHasText("Changed")))
                .isVisible();
        String address = "vesna@corvane.example";
        soon().until(() -> h.providers.files(address).stream().anyMatch(f -> {
            try {
                String text = h.providers.file(address, f).orElse("");
                return text.contains("SUMMARY:Dragged along") && text.contains("T120000Z");
            } catch (Exception failed) {
                throw new IllegalStateException(failed);
            }
        }));
        assertThat(page.getByRole(AriaRole.ARTICLE)).hasCount(0);
        block("Dragged along").click();
        assertThat(page.getByRole(AriaRole.ARTICLE)).containsText("Moved");
        assertThat(page.getByRole(AriaRole.ARTICLE)).containsText("Person vesna");
    }

    private void moved(UUID item, Instant to) {
        soon().until(() -> me.get("/api/meetings/" + item, MeetingDetail.class)
                .meeting()
                .begins()
                .equals(to));
    }

    @Test
    void aMeetingIsMovedByTheKeyboardAndTakenBack() throws Exception {
        Instant begins = monday(14).plus(1, ChronoUnit.DAYS);
        UUID item = made("Moved by keys", begins);
        signIn("/calendar?view=week&at=" + MONDAY);
        block("Moved by keys").focus();
        page.keyboard().press("Alt+ArrowRight");
        moved(item, begins.plus(1, ChronoUnit.DAYS));
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Undo").setExact(true))
                .click();
        moved(item, begins);
        assertThat(page.getByText("Undone: ")).isVisible();
        page.keyboard().press("m");
        Locator inMonth = page.locator(".month")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Moved by keys"))
                .first();
        assertThat(inMonth).isVisible();
        inMonth.focus();
        page.keyboard().press("Alt+ArrowDown");
        moved(item, begins.plus(7, ChronoUnit.DAYS));
        // the keyboard stays on it where it is drawn into another day
        assertThat(page.locator(".month button:focus")).containsText("Moved by keys");
        page.keyboard().press("Alt+ArrowLeft");
        moved(item, begins.plus(6, ChronoUnit.DAYS));
    }

    @Test
    void keysPressedOneAfterTheOtherAddUp() throws Exception {
        Instant begins = monday(9).plus(4, ChronoUnit.DAYS);
        UUID item = made("Moved by many keys", begins);
        signIn("/calendar?view=week&at=" + MONDAY);
        block("Moved by many keys").focus();
        for (String key : new String[] {"ArrowDown", "ArrowDown", "ArrowLeft", "ArrowDown", "ArrowDown", "ArrowUp"}) {
            page.keyboard().press("Alt+" + key);
        }
        moved(item, begins.minus(1, ChronoUnit.DAYS).plus(45, ChronoUnit.MINUTES));
    }

    /** Undone, the service's older news may still be under way: the next key goes on from where the meeting is by then. */
    @Test
    void aKeyRightAfterAnUndoCountsThoughTheMeetingsComeLate() throws Exception {
        Instant begins = monday(15).plus(1, ChronoUnit.DAYS);
        UUID item = made("Moved on slow lines", begins);
        page.addInitScript("""
                const soon = window.fetch
                window.fetch = async (...asked) => {
                  const url = String(asked[0].url ?? asked[0])
                  if (url.includes('/api/calendar?'))
                    await new Promise((done, fail) => {
                      setTimeout(done, 1700)
                      asked[0].signal?.addEventListener('abort', () => fail(asked[0].signal.reason))
                    })
                  return soon(...asked)
                }
                """);
        signIn("/calendar?view=week&at=" + MONDAY);
        block("Moved on slow lines").focus();
        page.keyboard().press("Alt+ArrowRight");
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Undo").setExact(true))
                .click();
        assertThat(page.getByText("Undone: ")).isVisible();
        moved(item, begins);
        page.keyboard().press("m");
        Locator inMonth = page.locator(".month")
                .getByRole(AriaRole.BUTTON, new Locator.GetByRoleOptions().setName("Moved on slow lines"))
                .first();
        inMonth.focus();
        page.keyboard().press("Alt+ArrowDown");
        moved(item, begins.plus(7, ChronoUnit.DAYS));
    }

    @Test
    void whatSomebodyTypesSurvivesNewsAndBothStandSideBySide() throws Exception {
        UUID item = made("Typed over", monday(16).plus(2, ChronoUnit.DAYS));
        signIn("/calendar?view=week&at=" + MONDAY + "&open=" + item);
        Locator panel = page.getByRole(AriaRole.ARTICLE);
        Locator title = panel.getByLabel("Title", new Locator.GetByLabelOptions().setExact(true));
        assertThat(title).hasValue("Typed over");
        title.fill("Half typ");
        me.put(
                "/api/meetings/" + item,
                new MeetingChange(
                        "Named elsewhere",
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null,
                        null),
                MadeMeeting.class);
        assertThat(panel.getByText("Changed meanwhile: Title is now “Named elsewhere”"))
                .isVisible();
        assertThat(title).hasValue("Half typ");
        panel.getByText("Use that").click();
        assertThat(title).hasValue("Named elsewhere");
        // the address alone opens it again
        page.reload();
        assertThat(title).hasValue("Named elsewhere");
    }

    @Test
    void datesAndClocksGoByWhatThePersonPrefers() throws Exception {
        made("Afternoon", monday(13).plus(3, ChronoUnit.DAYS));
        signIn("/calendar?view=week&at=" + MONDAY);
        assertThat(block("13:00").first()).isVisible();
        page.keyboard().press(",");
        assertThat(page.getByText("Kept in this browser")).isVisible();
        page.waitForTimeout(500);
        Browsing.choose(page, "Clock", "12 hours, am and pm");
        Browsing.choose(page, "Weeks begin on", "Sunday");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Close"))
                .click();
        assertThat(block("1:00 pm").first()).isVisible();
        assertThat(page.locator(".heads > span").nth(1)).containsText("Sun");
        page.reload();
        assertThat(block("1:00 pm").first()).isVisible();
    }

    @Test
    void aFollowUpInAnHourIsTwoKeysAndAClickFromARecord() throws Exception {
        signIn("/timeline/" + account);
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Account vesna")))
                .isVisible();
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("New").setExact(true))
                .click();
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Follow up in an hour"))
                .click();
        assertThat(page.getByRole(AriaRole.STATUS).filter(new Locator.FilterOptions().setHasText("on its way")))
                .isVisible();
        assertThat(page.getByText("Follow up", new Page.GetByTextOptions().setExact(true)))
                .isVisible();
    }

    @Test
    void whatIsMadeElsewhereAppearsWithoutLoadingThePageAgain() throws Exception {
        signIn("/timeline/" + account);
        assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Account vesna")))
                .isVisible();
        page.waitForTimeout(500);
        made("Out of the blue", Instant.now().plus(10, ChronoUnit.MINUTES).truncatedTo(ChronoUnit.MINUTES));
        assertThat(page.getByText("Out of the blue")).isVisible();
    }

    @Test
    void bothValuesOfAConflictStandInOnePlaceAndOneClickBringsTheOtherBack() throws Exception {
        UUID item = made("Agreed title", monday(8));
        String address = "vesna@corvane.example";
        soon().until(() -> "in-step".equals(stand(item)));
        String file = h.providers.files(address).stream()
                .filter(f -> text(address, f).contains("SUMMARY:Agreed title"))
                .findFirst()
                .orElseThrow();
        String connection = java.util.Arrays.stream(me.get("/api/connections", ConnectionInfo[].class))
                .filter(c -> c.kind().equals("caldav"))
                .findFirst()
                .orElseThrow()
                .id()
                .toString();
        me.post("/api/connections/" + connection + "/pause", java.util.Map.of(), ConnectionInfo.class);
        // a run that had begun ends first: it would carry out what is changed next
        Thread.sleep(1_500);
        me.put(
                "/api/meetings/" + item,
                new MeetingChange("Ours", null, null, null, null, null, null, null, null, null, null, null, null, null),
                MadeMeeting.class);
        h.providers.file(
                address,
                file,
                text(address, file)
                        .replace("SUMMARY:Agreed title", "SUMMARY:Theirs")
                        .replaceAll("LAST-MODIFIED:[0-9TZ]+", "LAST-MODIFIED:20991231T000000Z"));
        me.post("/api/connections/" + connection + "/resume", java.util.Map.of(), ConnectionInfo.class);
        soon().until(() -> !me.get("/api/meetings/" + item, MeetingDetail.class)
                .conflicts()
                .isEmpty());
        signIn("/in-step");
        assertThat(page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("Person vesna")))
                .containsText("capturing");
        page.keyboard().press("2");
        Locator row = page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("Theirs"));
        assertThat(row).containsText("Ours");
        row.getByRole(AriaRole.BUTTON).click();
        assertThat(row).containsText("chose the other value");
        soon().until(() -> text(address, file).contains("SUMMARY:Ours"));
    }

    private String stand(UUID item) throws Exception {
        var stand = me.get("/api/meetings/" + item, MeetingDetail.class).stand();
        return stand == null ? "" : stand.state();
    }

    private String text(String address, String file) {
        try {
            return h.providers.file(address, file).orElse("");
        } catch (Exception failed) {
            throw new IllegalStateException(failed);
        }
    }

    @Test
    void aRecordIsFollowedAndSubscribedToOnItsTimelineAndRevokedInOnePlace() {
        signIn("/timeline/" + account);
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Follow").setExact(true))
                .click();
        assertThat(page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("Unfollow")))
                .isVisible();
        page.getByLabel("More about this record").click();
        page.getByText("Subscribe from a calendar program").click();
        assertThat(page.getByLabel("Secret address")).hasValue(java.util.regex.Pattern.compile(".*/feeds/.+\\.ics"));
        page.navigate(h.process.url() + "/in-step?view=subscriptions");
        Locator row = page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText("Account vesna"));
        row.getByRole(AriaRole.BUTTON).click();
        assertThat(page.getByText("You have no subscriptions")).isVisible();
    }

    @Test
    void viewsTurnByKeysAndNothingIsMadeWithoutARecord() throws Exception {
        made("In the agenda", monday(15));
        signIn("/calendar?view=week&at=" + MONDAY);
        assertThat(block("In the agenda")).isVisible();
        page.keyboard().press("m");
        assertThat(block("In the agenda").first()).isVisible();
        page.keyboard().press("a");
        page.getByText("In the agenda").click();
        assertThat(page.getByRole(AriaRole.ARTICLE)).containsText("Planned");
        page.keyboard().press("Escape");
        assertThat(page.getByRole(AriaRole.ARTICLE)).hasCount(0);
        page.keyboard().press("w");
        page.keyboard().press("n");
        assertThat(block("In the agenda")).hasCount(0);
        page.keyboard().press("p");
        assertThat(block("In the agenda")).isVisible();
        page.keyboard().press("f");
        assertThat(page.getByText("When are all of them free")).isVisible();
        page.keyboard().press("c");
        assertThat(page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName("Create").setExact(true)))
                .isDisabled();
    }
}
