package jandrel.acceptance;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.file.Path;
import java.util.List;

/** Headless Chromium from Debian's packages. */
record Browsing(Playwright playwright, Browser browser) implements AutoCloseable {
    private static final List<String> FLAGS = List.of(
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync");

    static Browsing open() {
        Playwright playwright = Playwright.create();
        return new Browsing(
                playwright,
                playwright
                        .chromium()
                        .launch(new BrowserType.LaunchOptions()
                                .setExecutablePath(Path.of("/usr/bin/chromium"))
                                .setArgs(FLAGS)));
    }

    /** In the day theme. The stand-ins' certificates are their own authority's, which Chromium does not know. */
    Page page() {
        // a service that has just begun is busy with itself
        PlaywrightAssertions.setDefaultAssertionTimeout(Harbour.seconds(15).toMillis());
        Page page = browser.newPage(new Browser.NewPageOptions()
                .setViewportSize(1280, 800)
                .setColorScheme(ColorScheme.LIGHT)
                .setIgnoreHTTPSErrors(true));
        page.setDefaultTimeout(Harbour.seconds(30).toMillis());
        return page;
    }

    /** Opens a page of the console, where one is sent to sign in first. */
    static void signIn(Page page, String url, String login, String password) {
        page.navigate(url);
        page.getByLabel("Login").fill(login);
        page.getByLabel("Password").fill(password);
        page.keyboard().press("Enter");
    }

    static Locator button(Page page, String name) {
        return page.getByRole(
                AriaRole.BUTTON, new Page.GetByRoleOptions().setName(name).setExact(true));
    }

    static Locator field(Page page, String label) {
        return page.getByLabel(label, new Page.GetByLabelOptions().setExact(true));
    }

    /** The rows of tables that say so. */
    static Locator row(Page page, String text) {
        return page.getByRole(AriaRole.ROW).filter(new Locator.FilterOptions().setHasText(text));
    }

    /** The row of a table that begins so. */
    static Locator begins(Page page, String words) {
        return page.getByRole(
                AriaRole.ROW,
                new Page.GetByRoleOptions().setName(java.util.regex.Pattern.compile("^" + words.replace(".", "\\."))));
    }

    /** Picks one of a select’s options. */
    static void choose(Page page, String label, String option) {
        page.getByRole(
                        AriaRole.COMBOBOX,
                        new Page.GetByRoleOptions().setName(label).setExact(true))
                // a click misses what still moves
                .press("ArrowDown");
        page.getByRole(
                        AriaRole.OPTION,
                        new Page.GetByRoleOptions().setName(option).setExact(true))
                .click();
    }

    @Override
    public void close() {
        browser.close();
        playwright.close();
    }
}
