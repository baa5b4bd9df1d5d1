package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.letter;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import com.microsoft.playwright.options.ReducedMotion;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Consumer;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;

/** Every page and open dialog: WCAG by axe-core in both themes; nothing wider than its window, however small that is. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class FitForEverybodyTest {
    private static final List<String> PAGES = List.of(
            "/overview",
            "/timeline",
            "/timeline/RECORD",
            "/timeline?words=note",
            "/calendar?view=week",
            "/calendar?view=month",
            "/calendar?view=agenda",
            "/calendar?view=free",
            "/triage",
            "/in-step",
            "/in-step?view=conflicts",
            "/in-step?view=not%20sent%20out",
            "/in-step?view=subscriptions",
            "/address-books",
            "/address-books?view=to%20settle",
            "/address-books?view=no%20account",
            "/address-books?view=conflicts",
            "/measures",
            "/measures?measure=to-win&by=owner",
            "/measures?measure=last-touch&column=accounts",
            "/measures?measure=reply-times",
            "/measures?measure=capture&by=reason&column=seen",
            "/connections",
            "/sign-ins",
            "/servers",
            "/mailbox",
            "/account",
            "/directory",
            "/directory?kind=contacts",
            "/directory?kind=import",
            "/timeline/RECORD?view=facts",
            "/policy",
            "/exclusions",
            "/coverage",
            "/decisions",
            "/journal",
            "/no-such-page");
    private final Harbour h;
    private Browsing browsing;
    private String axe = "";
    private UUID record = new UUID(0, 0);

    FitForEverybodyTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeAll
    void fill() throws Exception {
        browsing = Browsing.open();
        axe = Files.readString(Path.of("../console/node_modules/axe-core/axe.min.js"));
        h.bothWays();
        String who = h.person("fay", "rep");
        record = h.account("fit");
        Instant at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(2, ChronoUnit.DAYS);
        for (int i = 0; i < 5; i++) {
            Instant each = at.minus(i, ChronoUnit.DAYS);
            h.providers.mail(who, "", each, letter("fit-" + i, each, "bram@fit.example", who, "Note " + i, "Text"));
        }
        Path leads = Files.writeString(
                Files.createTempDirectory("fit").resolve("fit.csv"),
                "key,name,addresses\nfit-lead,Fit Lead,lead@fit-lead.example\n");
        Client.of(h).run("import-from", "leads", leads.toString(), "--take");
        h.providers.mail(who, "", at, letter("fit-s", at, "stranger@nowhere.example", who, "Hello", "Text"));
        h.connectMail("fay");
        h.connectCalendar("fay");
        h.admin.post("/api/exclusions", Map.of("text", "shop.example", "reason", "supplier"), Object.class);
        h.settle();
        Service fay = h.process.signedIn("fay", Providers.PASSWORD);
        for (int i = 1; i < 6; i++) {
            Instant begins = Instant.now().plus(i, ChronoUnit.DAYS).truncatedTo(ChronoUnit.HOURS);
            fay.post("/api/meetings", Diaries.wanted("Fit " + i, begins, record), MadeMeeting.class);
        }
    }

    @AfterAll
    void close() {
        browsing.close();
    }

    /** One sign-in for all of them. */
    private Page page() {
        Page page = browsing.page();
        page.emulateMedia(new Page.EmulateMediaOptions().setReducedMotion(ReducedMotion.REDUCE));
        Browsing.signIn(page, h.process.url() + "/sign-in", "admin", ServiceProcess.ADMIN_PASSWORD);
        assertThat(page.getByText("Captured in the last 30 days"))
                .isVisible(new com.microsoft.playwright.assertions.LocatorAssertions.IsVisibleOptions()
                        .setTimeout(Harbour.seconds(20).toMillis()));
        return page;
    }

    /** As a link leads there, without loading everything anew. */
    private void follow(Page page, String path) {
        page.evaluate(
                "to => { history.pushState(null, '', to); dispatchEvent(new PopStateEvent('popstate', { state: null })) }",
                h.process.url() + path.replace("RECORD", record.toString()));
        settled(page);
    }

    private void load(Page page, String path) {
        page.navigate(h.process.url() + path.replace("RECORD", record.toString()));
        settled(page);
    }

    private static void settled(Page page) {
        assertThat(page.locator("h1:visible, .picker:visible").first()).isVisible();
        assertThat(page.getByText("Loading…")).hasCount(0);
        // colours change at once
        page.evaluate("() => { const s = new CSSStyleSheet(); s.replaceSync('* { transition: none !important }');"
                + " document.adoptedStyleSheets = [...document.adoptedStyleSheets, s] }");
        page.waitForTimeout(200);
    }

    private void fitByDay(Page page, String what, List<String> wrong) {
        if (page.evaluate("typeof axe").equals("undefined")) {
            page.evaluate(axe);
        }
        violations(page, "{resultTypes: ['violations']}").forEach(v -> wrong.add(what + " by day " + v));
    }

    /** As far as colours go: all else is as it is by day. */
    private void fitByNight(Page page, String what, List<String> wrong) {
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
        assertThat(page.locator(".v-theme--day")).hasCount(0);
        page.waitForTimeout(100);
        violations(page, "{resultTypes: ['violations'], runOnly: ['color-contrast']}")
                .forEach(v -> wrong.add(what + " by night " + v));
        page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT));
    }

    private static List<?> violations(Page page, String options) {
        return (List<?>)
                page.evaluate(
                        "async () => (await axe.run(" + options + ")).violations.map(v => v.id + ': '"
                                + " + v.nodes.map(n => n.html.slice(0, 160) + ' ' + (n.any[0]?.message ?? '')).slice(0, 3).join(' | '))");
    }

    /** What lies over a page and lets it shine through where its words are. */
    private static List<?> seenThrough(Page page) {
        return (List<?>) page.evaluate("""
                () => [...document.querySelectorAll('.v-overlay--active > .v-overlay__content')].filter(o => {
                  const solid = e => /^rgb\\(|, 1\\)$/.test(getComputedStyle(e).backgroundColor)
                  const box = o.getBoundingClientRect()
                  const under = document.elementFromPoint(box.x + box.width / 2, box.y + Math.min(box.height / 2, 20))
                  for (let e = under; e && o.contains(e); e = e.parentElement) if (solid(e)) return false
                  return box.width > 0
                }).map(o => o.innerText.slice(0, 60))
                """);
    }

    /** At a phone's width and at twice the size, too. */
    private static void notCutOff(Page page, String what, List<String> wrong) {
        for (int[] size : new int[][] {{1920, 1080}, {1280, 800}, {640, 400}, {390, 800}}) {
            page.setViewportSize(size[0], size[1]);
            page.waitForTimeout(70);
            String where = what + " at " + size[0];
            Object cut = page.evaluate("""
                    () => [...document.querySelectorAll('main h1, main header *, main .bar > *, main .v-btn, main .v-field')]
                        .filter(e => e.offsetParent && !e.closest('[hidden], .v-table, .hours, .month, .side'))
                        .filter(e => {
                          const b = e.getBoundingClientRect()
                          return b.width > 0 && b.left < innerWidth && b.right > innerWidth + 1
                        })
                        .map(e => e.tagName + ' ' + e.className + ' ' + (e.innerText ?? '').slice(0, 40)).slice(0, 3)
                    """);
            ((List<?>) cut).forEach(c -> wrong.add(where + " cuts off " + c));
            Object wide = page.evaluate("document.scrollingElement.scrollWidth - innerWidth");
            if (((Number) wide).intValue() > 0) {
                wrong.add(where + " is wider than its window by " + wide);
            }
        }
        page.setViewportSize(1280, 800);
    }

    @Test
    void noPageHasAViolationNorIsCutOff() {
        List<String> wrong = new ArrayList<>();
        try (Page page = page()) {
            for (String path : PAGES) {
                follow(page, path);
                fitByDay(page, path, wrong);
                fitByNight(page, path, wrong);
                notCutOff(page, path, wrong);
            }
        }
        assertThat(wrong).isEmpty();
    }

    private static void button(Page page, String name) {
        page.getByRole(
                        AriaRole.BUTTON,
                        new Page.GetByRoleOptions().setName(name).setExact(true))
                .first()
                .click();
    }

    private static void row(Page page) {
        page.locator("[data-row]").first().click();
    }

    @Test
    void noDialogHasAViolation() {
        List<String> wrong = new ArrayList<>();
        Map<String, Consumer<Page>> dialogs = new java.util.LinkedHashMap<>();
        dialogs.put("/coverage palette", page -> page.keyboard().press("Control+k"));
        dialogs.put("/coverage help", page -> page.keyboard().press("?"));
        dialogs.put("/coverage display", page -> page.keyboard().press(","));
        dialogs.put(
                "/coverage cover",
                page -> page.getByLabel("The end of cover of Person fay").click());
        dialogs.put("/coverage notices", page -> page.getByLabel("Notices").click());
        dialogs.put("/calendar new", page -> button(page, "New"));
        dialogs.put("/calendar?view=agenda meeting", page -> row(page));
        dialogs.put(
                "/exclusions remove",
                page -> page.getByLabel("Remove shop.example").click());
        dialogs.put(
                "/connections end",
                page -> page.getByLabel("End fay@corvane.example").first().click());
        dialogs.put(
                "/connections sources",
                page -> page.getByLabel("Choose sources of fay@corvane.example")
                        .first()
                        .click());
        dialogs.put(
                "/decisions decision",
                page -> page.locator("tr[data-row]").first().click());
        dialogs.put(
                "/decisions select",
                page -> page.getByRole(AriaRole.COMBOBOX, new Page.GetByRoleOptions().setName("Kind"))
                        .click(new Locator.ClickOptions().setForce(true)));
        dialogs.put(
                "/timeline/RECORD activity",
                page -> page.locator(".act").first().click());
        dialogs.put("/directory?kind=contacts fields", page -> {
            button(page, "Fields…");
            button(page, "Add a field");
        });
        dialogs.put(
                "/directory?kind=import undo",
                page -> page.getByLabel("Undo fit.csv").click());
        dialogs.put("/timeline?words=note search", page -> button(page, "How to search"));
        dialogs.put("/timeline/RECORD filters", page -> page.locator(".filters").click());
        dialogs.put(
                "/timeline/RECORD more",
                page -> page.getByLabel("More about this record").click());
        try (Page page = page()) {
            dialogs.forEach((what, open) -> {
                // what was opened before goes with its page
                load(page, what.split(" ")[0]);
                open.accept(page);
                page.waitForTimeout(450);
                seenThrough(page).forEach(o -> wrong.add(what + " is seen through: " + o));
                fitByDay(page, what, wrong);
                fitByNight(page, what, wrong);
            });
        }
        assertThat(wrong).isEmpty();
    }

    /** A page that was opened has the focus, so that a keyboard and a screen reader begin there. */
    @Test
    void aNewPageTakesTheFocusAlong() {
        try (Page page = page()) {
            load(page, "/coverage");
            page.locator("nav a[href='/journal']").click();
            assertThat(page.getByRole(AriaRole.HEADING, new Page.GetByRoleOptions().setName("Journal")))
                    .isVisible();
            assertThat(page.locator("#main")).isFocused();
            page.keyboard().press("Tab");
            assertThat(page.locator("main :focus")).isVisible();
        }
    }
}
