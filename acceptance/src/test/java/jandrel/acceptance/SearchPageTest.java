package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;
import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.ActivityApi.SearchPage;
import jandrel.demo.ServiceProcess;
import java.net.URLEncoder;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.regex.Pattern;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What was written is found: by HTTP, and in headless Chromium. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SearchPageTest {
    private final Harbour h;
    private Browsing browsing;
    private Page page;

    SearchPageTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeAll
    void open() throws Exception {
        browsing = Browsing.open();
        String who = h.person("sena", "rep");
        h.account("findable");
        Instant at = Instant.now().truncatedTo(ChronoUnit.SECONDS).minus(3, ChronoUnit.DAYS);
        String filler = "The weather is fair and the tide is with us today. ".repeat(20);
        for (int i = 0; i < 4; i++) {
            Instant each = at.minus(i, ChronoUnit.DAYS);
            String text = filler + "We moored the quokkas at pier " + i + ", as you said.\r\n" + filler
                    + "\r\n\r\nOn Monday Sena wrote:\r\n> Where are the wombats?";
            h.providers.mail(
                    who, "", each, letter("find-" + i, each, "Bram <bram@findable.example>", who, "Report " + i, text));
        }
        h.connectMail("sena");
        h.settle();
        soon().until(() -> find("quokkas").total() == 4);
    }

    @AfterAll
    void close() {
        browsing.close();
    }

    @BeforeEach
    void newPage() {
        page = browsing.page();
    }

    @AfterEach
    void closePage() {
        page.context().close();
    }

    private Locator all() {
        return page.getByRole(AriaRole.SEARCHBOX, new Page.GetByRoleOptions().setName("All timelines"));
    }

    private static String path(String words) {
        return "/api/search?words=" + URLEncoder.encode(words, StandardCharsets.UTF_8);
    }

    private SearchPage find(String words) throws Exception {
        return h.admin.get(path(words), SearchPage.class);
    }

    @Test
    void aPhraseFromTheMiddleOfAMessageIsFoundNarrowedAndOpened() {
        Browsing.signIn(page, h.process.url() + "/timeline", "admin", ServiceProcess.ADMIN_PASSWORD);
        assertThat(page.getByText("Pick a record on the left")).isVisible();
        page.keyboard().press("s");
        page.keyboard().type("\"moored the quokkas\"");
        assertThat(page.getByText("4 activities that you read in full")).isVisible();
        Locator first = page.locator(".line [data-row]").first();
        assertThat(first.locator("mark")).hasText(new String[] {"moored", "the", "quokkas"});
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("best first"))
                .click();
        assertThat(page).hasURL(Pattern.compile(".*order=best.*"));
        all().fill("\"moored the quokkas\" \"pier 2\" from:bram in:findable");
        assertThat(page.getByText("1 activity that you read in full")).isVisible();
        page.locator(".line [data-row]").focus();
        page.keyboard().press("Enter");
        assertThat(page.getByRole(AriaRole.ARTICLE)).containsText("Report 2");
        all().fill("wombats from:bram");
        assertThat(page.getByText("Nothing fits")).isVisible();
        all().fill("in:findable");
        assertThat(page.getByRole(AriaRole.ALERT)).containsText("Add a word to look for");
        page.getByRole(AriaRole.BUTTON, new Page.GetByRoleOptions().setName("How to search"))
                .click();
        assertThat(page.getByRole(AriaRole.DIALOG)).containsText("words that begin so");
    }

    /** The line is of what stands around, and pages follow one another. */
    @Test
    void resultsAreMarkedCountedAndPaged() throws Exception {
        SearchPage two = h.admin.get(path("quokka") + "&limit=2", SearchPage.class);
        Assertions.assertThat(two.total()).isEqualTo(4);
        Assertions.assertThat(two.orMore()).isFalse();
        Assertions.assertThat(two.found()).hasSize(2).allSatisfy(f -> {
            String line = f.activity().snippet();
            Assertions.assertThat(f.inSnippet())
                    .singleElement()
                    .satisfies(m -> Assertions.assertThat(line.substring(m.from(), m.from() + m.length()))
                            .isEqualTo("quokkas"));
        });
        SearchPage rest = h.admin.get(path("quokka") + "&limit=2&next=" + two.next(), SearchPage.class);
        Assertions.assertThat(rest.found())
                .extracting(f -> f.activity().subject())
                .containsExactly("Report 2", "Report 3");
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "-x", "in:port", "x after:now", "has:attachment", "x has:wings", "\"\""})
    void whatSaysNothingToLookForIsRefusedWithWhy(String words) throws Exception {
        HttpResponse<String> answer = h.admin.ask("GET", path(words), "");
        Assertions.assertThat(answer.statusCode()).isEqualTo(400);
        Assertions.assertThat(answer.body()).contains("\"detail\":");
    }

    /** What is typed may be made to break it. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "' | ! & ( ) <-> :* \\ quokkas",
                "quokkas'); DROP TABLE body; --",
                "%_quokkas%",
                "quokkas\u0000",
                "\uD83D quokkas",
                "quokkas from:%",
                "q* u* o* k* a* quo* quok*",
                "\"quokkas",
                "ﬁ ½ ㎏ quokkas"
            })
    void oddInputIsLookedForAsItStandsOrRefused(String words) throws Exception {
        HttpResponse<String> answer = h.admin.ask("GET", path(words), "");
        Assertions.assertThat(answer.statusCode()).isIn(200, 400);
        Assertions.assertThat(find("quokkas").total()).isEqualTo(4);
    }
}
