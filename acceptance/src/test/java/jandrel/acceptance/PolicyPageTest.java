package jandrel.acceptance;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import jandrel.api.PolicyApi.BookConditionRule;
import jandrel.api.PolicyApi.PolicyChange;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.api.PolicyApi.PolicyRules;
import jandrel.demo.DemoPolicy;
import jandrel.demo.ServiceProcess;
import java.util.ArrayList;
import java.util.List;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A policy’s sentences in headless Chromium: what is chosen on the page is what is applied. */
@ExtendWith(Harbour.Shared.class)
class PolicyPageTest {
    private final Harbour h;
    private final List<String> errors = new ArrayList<>();
    private Browsing browsing;
    private Page page;

    PolicyPageTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeEach
    void open() {
        browsing = Browsing.open();
        page = browsing.page();
        page.onPageError(errors::add);
    }

    @AfterEach
    void close() {
        browsing.close();
        Assertions.assertThat(errors).isEmpty();
    }

    /** What stands on the page is applied, or nothing is. */
    @Test
    void whatIsAppliedIsWhatStandsOnThePage() throws Exception {
        PolicyInfo made = editing("Asked early");
        Browsing.choose(page, "Contacts", "are kept the same in address books and here");
        Locator apply = Browsing.button(page, "Apply this change");
        assertThat(apply).isEnabled();
        Object offered = page.evaluate("""
                async () => {
                  const field = document.querySelector('input[aria-label="Ask above"]')
                  field.value = '3'
                  field.dispatchEvent(new Event('input', { bubbles: true }))
                  await new Promise((drawn) => setTimeout(drawn))
                  const buttons = [...document.querySelectorAll('button')]
                  return buttons.some((b) => b.textContent.includes('Apply this change') && !b.disabled)
                }
                """);
        Assertions.assertThat(offered).as("what was rehearsed before").isEqualTo(false);
        apply.click();
        assertThat(page.getByText("Applied. What follows")).isVisible();
        Assertions.assertThat(rules(made))
                .returns("both", r -> r.contacts())
                .returns(3, r -> r.books().askAbove());
        // and the next one is asked about, too
        Browsing.choose(page, "Who reads it", "the owner alone");
        apply.click();
        Harbour.soon().untilAsserted(() -> Assertions.assertThat(rules(made)).returns("owner", r -> r.sharing()));
    }

    /** Alternatives of what cards must be, each a sentence that is put together by choosing. */
    @Test
    void conditionsOfCardsAreChosenAndApplied() throws Exception {
        PolicyInfo made = editing("With conditions");
        Browsing.choose(page, "Contacts", "come in from address books");
        Browsing.choose(page, "Which cards", "Only cards whose");
        Locator group = page.getByRole(AriaRole.GROUP, new Page.GetByRoleOptions().setName("Cards that come in"));
        group.getByLabel("Value").fill("Port");
        group.getByText("and…").click();
        chosen(group.getByLabel("Field").last(), "title");
        chosen(group.getByLabel("Comparison").last(), "is filled in");
        group.getByText("or…").click();
        chosen(group.getByLabel("Field").last(), "category");
        chosen(group.getByLabel("Comparison").last(), "is");
        group.getByLabel("Value").last().fill("customers");
        Browsing.button(page, "Apply this change").click();
        assertThat(page.getByText("Applied. What follows")).isVisible();
        Assertions.assertThat(rules(made).books().takesIf())
                .containsExactly(
                        List.of(
                                new BookConditionRule("organisation", "contains", "Port"),
                                new BookConditionRule("title", "filled", "")),
                        List.of(new BookConditionRule("category", "is", "customers")));
    }

    private void chosen(Locator field, String option) {
        field.press("ArrowDown");
        page.getByRole(
                        AriaRole.OPTION,
                        new Page.GetByRoleOptions().setName(option).setExact(true))
                .click();
    }

    /** A policy of one's own, opened. */
    private PolicyInfo editing(String name) throws Exception {
        PolicyInfo made = h.admin.post("/api/policies", DemoPolicy.of(name).rules(), PolicyInfo.class);
        Browsing.signIn(page, h.process.url() + "/policy?policy=" + made.id(), "admin", ServiceProcess.ADMIN_PASSWORD);
        return made;
    }

    private PolicyRules rules(PolicyInfo made) throws Exception {
        return h.admin.get("/api/policies/" + made.id(), PolicyInfo.class).rules();
    }

    /** What somebody else saved meanwhile is shown beside what is being edited, and neither is lost. */
    @Test
    void aPolicyThatOthersChangedMeanwhileShowsBoth() throws Exception {
        PolicyInfo made = editing("Twice edited");
        Browsing.choose(page, "Who reads it", "the owner alone");
        h.admin.put(
                "/api/policies/" + made.id(),
                new PolicyChange(
                        made.version(), DemoPolicy.of("Renamed elsewhere").rules()),
                PolicyInfo.class);
        assertThat(page.getByText("Changed meanwhile.")).isVisible();
        assertThat(page.locator(".overtaken")).containsText("Renamed elsewhere");
        Browsing.button(page, "Put my changes on top").click();
        assertThat(page.getByText("Changed meanwhile.")).hasCount(0);
        Browsing.button(page, "Apply this change").click();
        Harbour.soon()
                .untilAsserted(() -> Assertions.assertThat(rules(made))
                        .returns("Renamed elsewhere", r -> r.name())
                        .returns("owner", r -> r.sharing()));
    }
}
