package jandrel.bench;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.options.BoundingBox;
import com.microsoft.playwright.options.WaitUntilState;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/**
 * The console as Chromium measures it: until what was asked for stands there, beside the same calls of the service made at once
 * by a page that does nothing else.
 */
final class ConsoleBench {
    private static final int RUNS = 9;
    private static final int WARM = 3;
    private static final int ACTIVITIES = 2_000;
    private static final double MOST_SHIFT = 0.05;
    /** What a page's shifting adds up to until now (Layout Instability, WICG). */
    private static final String SHIFTS = """
            window.shifts = 0
            window.moved = []
            new PerformanceObserver(list => list.getEntries().forEach(e => {
              if (e.hadRecentInput) return
              window.shifts += e.value
              const named = n => n?.nodeType === 1 ? n.tagName.toLowerCase() + '.' + String(n.className).split(' ').slice(0, 2).join('.') : '#text'
              window.moved.push(e.value.toFixed(3) + ' ' + e.sources.map(s => named(s.node)).join(' '))
            })).observe({type: 'layout-shift', buffered: true})
            """;

    private static final String SAME_CALLS = """
            async since => {
              const urls = [...new Set(performance.getEntriesByType('resource').filter(e => e.startTime >= since).map(e => e.name)
                  .filter(u => u.includes('/api/') && !u.includes('/api/changes')))]
              const began = performance.now()
              await Promise.all(urls.map(u => fetch(u, {cache: 'no-store'}).then(r => r.text())))
              return performance.now() - began
            }
            """;

    private static final String SCRIPTS = """
            () => performance.getEntriesByType('resource').filter(e => e.name.endsWith('.js'))
                .map(e => [e.name.replace(/.*[/]/, ''), e.encodedBodySize])
            """;

    private final Stand stand;

    private record Run(double page, double bare, double shifts, String moved) {}

    ConsoleBench(Stand stand) {
        this.stand = stand;
    }

    void run() throws Exception {
        Database database = new Database(stand, "bench_console");
        try (ServiceProcess process = database.service("-Xmx1g", "1d");
                Playwright playwright = Playwright.create();
                Browser browser = playwright
                        .chromium()
                        .launch(new BrowserType.LaunchOptions()
                                .setExecutablePath(Path.of("/usr/bin/chromium"))
                                .setArgs(List.of(
                                        "--no-sandbox",
                                        "--disable-gpu",
                                        "--disable-background-networking",
                                        "--disable-sync")))) {
            process.administrator();
            Crowd.fill(database);
            record(database);
            String url = process.url();
            try (BrowserContext context = browser.newContext(
                    new Browser.NewContextOptions().setViewportSize(1280, 800).setIgnoreHTTPSErrors(true))) {
                context.addInitScript(SHIFTS);
                Page page = context.newPage();
                page.navigate(url + "/sign-in");
                page.getByLabel("Login").fill("admin");
                page.getByLabel("Password").fill(ServiceProcess.ADMIN_PASSWORD);
                page.keyboard().press("Enter");
                page.waitForURL("**/overview");
                page.locator(".overview .plot svg").first().waitFor();
                scripts(page);
                say("first load: the overview", loaded(page, url + "/overview", ".overview a.figure"));
                say(
                        "opening a record of 2,000 activities",
                        opened(page, url + "/timeline", ".list [data-row]", ".act >> nth=20"));
                say(
                        "a page of decisions among 1 M",
                        opened(page, url + "/decisions", ".views .v-btn >> nth=2", "tr[data-row] >> nth=40"));
            }
        }
    }

    /** From the beginning of a navigation, with an empty cache, as at a first visit. */
    private static List<Run> loaded(Page page, String url, String until) {
        List<Run> runs = new ArrayList<>();
        for (int i = 0; i < RUNS + WARM; i++) {
            page.context().newCDPSession(page).send("Network.clearBrowserCache");
            page.navigate("about:blank");
            page.navigate(url, new Page.NavigateOptions().setWaitUntil(WaitUntilState.COMMIT));
            page.locator(until).first().waitFor();
            double at = number(page.evaluate("performance.now()"));
            if (i >= WARM) {
                runs.add(run(page, at, 0));
            }
        }
        return runs;
    }

    /** From a click in a console that is open, until what it asks for stands there. */
    private static List<Run> opened(Page page, String url, String click, String until) {
        List<Run> runs = new ArrayList<>();
        for (int i = 0; i < RUNS + WARM; i++) {
            page.navigate(url);
            page.locator(click).first().waitFor();
            page.waitForTimeout(1_200);
            BoundingBox box = page.locator(click).first().boundingBox();
            double began = number(page.evaluate("performance.now()"));
            page.mouse().click(box.x + box.width / 2, box.y + box.height / 2);
            page.locator(until).first().waitFor();
            double at = number(page.evaluate("performance.now()"));
            if (i >= WARM) {
                runs.add(run(page, at - began, began));
            }
        }
        return runs;
    }

    /** @param since what was called before that is not of it */
    private static Run run(Page page, double took, double since) {
        // whatever comes in late may still shift it
        page.waitForTimeout(1_500);
        double shifts = number(page.evaluate("window.shifts"));
        String moved = String.valueOf(page.evaluate("window.moved.join('; ')"));
        return new Run(took, number(page.evaluate(SAME_CALLS, since)), shifts, moved);
    }

    private static double number(Object value) {
        return ((Number) value).doubleValue();
    }

    private static double median(List<Run> runs, java.util.function.ToDoubleFunction<Run> of) {
        double[] sorted = runs.stream().mapToDouble(of).sorted().toArray();
        return sorted[sorted.length / 2];
    }

    private static void say(String what, List<Run> runs) {
        Run worst = runs.stream()
                .max(java.util.Comparator.comparingDouble(Run::shifts))
                .orElseThrow();
        double page = median(runs, Run::page);
        double bare = median(runs, Run::bare);
        Figures.line(
                what + " (bar: 2.5x, shift < 0.05)",
                "median %.0f ms, the same calls alone %.0f ms   %.2fx   shift at most %.3f%s",
                page,
                bare,
                page / bare,
                worst.shifts(),
                worst.shifts() < MOST_SHIFT ? "" : " (" + worst.moved() + ")");
    }

    /** As they came over the wire, compressed. */
    private static void scripts(Page page) {
        List<?> all = (List<?>) page.evaluate(SCRIPTS);
        double plot = 0;
        double rest = 0;
        for (Object one : all) {
            List<?> entry = (List<?>) one;
            if (String.valueOf(entry.get(0)).startsWith("CapturedPlot")) {
                plot += number(entry.get(1));
            } else {
                rest += number(entry.get(1));
            }
        }
        Figures.line(
                "scripts of the overview (bar: 250 kB)",
                "%.0f kB in %d files, and the plot %.0f kB",
                rest / 1_000,
                all.size(),
                plot / 1_000);
    }

    private static void record(Database database) throws SQLException {
        database.run("INSERT INTO account (id, key, name) VALUES (md5('big')::uuid, 'big', 'Big account')");
        database.run("""
                INSERT INTO activity (id, item, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, version)
                SELECT md5('a' || n)::uuid, md5('a' || n)::uuid, 'mail', now() - n * interval '6 hours', NULL, false, 'About item ' || n,
                       'Contact', jsonb_build_object('identity', 'mail:' || n, 'at', to_char(now() - n * interval '6 hours',
                       'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'dateFromHeader', true, 'parties',
                       jsonb_build_array(jsonb_build_object('part', 'FROM', 'address', 'c' || n %% 900 || '@a.example', 'name', 'Contact')),
                       'subject', 'About item ' || n, 'nature', jsonb_build_object('kind', 'ORDINARY', 'evidence', ''))::text,
                       NULL, ARRAY[md5('p' || n %% 300)::uuid], ARRAY[]::uuid[], ''
                FROM generate_series(1, %d) n""".formatted(ACTIVITIES));
        database.run("""
                INSERT INTO link SELECT md5('big')::uuid, at, id, 'account', 'ADDRESS' FROM activity
                WHERE id IN (SELECT md5('a' || n)::uuid FROM generate_series(1, %d) n)""".formatted(ACTIVITIES));
        database.run("VACUUM ANALYZE");
    }
}
