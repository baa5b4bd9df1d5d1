package jandrel.service.policy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.PolicyApi.AudienceInfo;
import jandrel.api.PolicyApi.BookConditionRule;
import jandrel.api.PolicyApi.BookRule;
import jandrel.api.PolicyApi.ConditionRule;
import jandrel.api.PolicyApi.CreationRules;
import jandrel.api.PolicyApi.FolderRules;
import jandrel.api.PolicyApi.KeepingRules;
import jandrel.api.PolicyApi.OpeningRules;
import jandrel.api.PolicyApi.PolicyRules;
import jandrel.core.directory.OwnField;
import jandrel.core.directory.OwnFields;
import jandrel.core.policy.BookCondition;
import jandrel.core.policy.Policy;
import jandrel.service.kernel.Refusal;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

class PolicyWordsTest {
    private static final UUID ID = new UUID(0, 7);

    private static PolicyRules rules(String meetings, String cancelled, int backDays, String time) {
        return new PolicyRules(
                "Field",
                new AudienceInfo(false, List.of("k1"), List.of("North"), List.of()),
                true,
                false,
                meetings,
                "none",
                backDays,
                30,
                "leave-out",
                cancelled,
                "keep",
                "mark",
                "crm",
                "each-occurrence",
                List.of("contact", "account"),
                "most-recent",
                true,
                "those-on-it",
                15,
                List.of("monday"),
                List.of(time),
                List.of("call"),
                new KeepingRules("{title} ({account})", false, "calendar", true, "cancel", true, List.of("no-show")),
                new FolderRules(List.of("inbox", "Customers/*"), List.of("*/old")),
                new CreationRules("contacts", List.of(new ConditionRule("meetings", "at-least", 1))),
                new BookRule(
                        "categories",
                        List.of("customers"),
                        false,
                        "recent",
                        30,
                        100,
                        5,
                        "remove",
                        "remove",
                        List.of(
                                List.of(
                                        new BookConditionRule("organisation", "contains", "Port"),
                                        new BookConditionRule("title", "filled", "")),
                                List.of(new BookConditionRule("mail", "ends-with", "@quay.example"))),
                        List.of(List.of(new BookConditionRule("category", "is-not", "friends"))),
                        null,
                        "Customers"),
                new OpeningRules(
                        "open",
                        List.of(new ConditionRule("guests", "at-most", 5)),
                        List.of("offer"),
                        List.of("Sales"),
                        List.of("call"),
                        "talking",
                        "web",
                        "account-owner",
                        "{account}: {title}",
                        true,
                        false,
                        true,
                        3,
                        9));
    }

    @Test
    void wordsAreReadAndWrittenAlike() {
        PolicyRules rules = rules("both", "mark", 3_650, "07:30");
        Policy policy = PolicyWords.policy(ID, 4, rules, OwnFields.NONE);
        assertThat(policy.version()).isEqualTo(4);
        assertThat(PolicyWords.policy(ID, 4, PolicyWords.rules(policy), OwnFields.NONE))
                .isEqualTo(policy);
    }

    @Test
    void whatIsKeptAtFirstSurvivesTheWayThroughTheWords() {
        Policy first = Policy.first();
        assertThat(PolicyWords.policy(first.id(), first.version(), PolicyWords.rules(first), OwnFields.NONE))
                .isEqualTo(first);
    }

    private static PolicyRules withBooks(BookRule rule) {
        JsonMapper json = JsonMapper.builder().build();
        ObjectNode all = json.valueToTree(rules("both", "mark", 3_650, "07:30"));
        all.set("books", json.valueToTree(rule));
        return json.treeToValue(all, PolicyRules.class);
    }

    private static final OwnFields OWN = new OwnFields(List.of(
            new OwnField("berths", "Berths", OwnField.Kind.NUMBER, List.of()),
            new OwnField("segment", "Segment", OwnField.Kind.CHOICE, List.of("Gold", "Silver"))));

    private static PolicyRules giving(BookConditionRule condition) {
        BookRule now =
                Objects.requireNonNull(rules("both", "mark", 3_650, "07:30").books());
        return withBooks(new BookRule(
                now.takes(),
                now.categories(),
                now.creates(),
                "conditions",
                now.recentDays(),
                now.most(),
                now.askAbove(),
                now.removedThere(),
                now.removedHere(),
                now.takesIf(),
                List.of(List.of(condition)),
                null,
                null));
    }

    /** Contacts go out by what the company made for itself; a card has no such fields. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            nullValues = "fits",
            value = {
                "berths | at-least | 0012.50 | 12.5 | fits",
                "segment | is | gold | Gold | fits",
                "segment | contains | ol | ol | fits",
                "segment | empty | x | '' | fits",
                "segment | is | Bronze | | “Bronze” is not one of Gold, Silver",
                "berths | at-most | many | | give a number, or a date",
                "own | is | 1 | | names a field of your own by its key",
                "renewed | is | 1 | | “books.givesIf.field” is “renewed”"
            })
    void conditionsAskForFieldsOfTheCompanysOwn(
            String field, String comparison, String value, String kept, @Nullable String refused) {
        PolicyRules wanted = giving(new BookConditionRule(field, comparison, value));
        if (refused == null) {
            Policy policy = PolicyWords.policy(ID, 4, wanted, OWN);
            BookCondition condition = policy.books().givesIf().get(0).get(0);
            assertThat(condition.own()).isEqualTo(field);
            assertThat(condition.value()).isEqualTo(kept);
            assertThat(PolicyWords.policy(ID, 4, PolicyWords.rules(policy), OWN))
                    .isEqualTo(policy);
        } else {
            assertThatThrownBy(() -> PolicyWords.policy(ID, 4, wanted, OWN))
                    .isInstanceOfSatisfying(
                            Refusal.class, no -> assertThat(no.detail()).contains(refused));
        }
    }

    /** Of cards that are to meet conditions, there are some to meet, and each can be met by something and not by all. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "| has no conditions, so nothing would meet them",
                "organisation,contains, | compares with nothing",
                "organisation,near,Port | “books.takesIf.comparison” is “near”; it can be is, is-not, contains",
                "shoe,is,Port | “books.takesIf.field” is “shoe”",
                "- | an alternative without a condition"
            })
    void conditionsThatNothingOrEverythingMeetsAreRefused(String condition, String says) {
        BookRule now =
                Objects.requireNonNull(rules("both", "mark", 3_650, "07:30").books());
        List<String> words =
                condition == null ? List.of() : List.of(condition.strip().split(",", -1));
        List<List<BookConditionRule>> takesIf = words.isEmpty()
                ? List.of()
                : words.size() < 3
                        ? List.of(List.of())
                        : List.of(List.of(new BookConditionRule(words.get(0), words.get(1), words.get(2))));
        PolicyRules wanted = withBooks(new BookRule(
                "conditions",
                now.categories(),
                now.creates(),
                now.gives(),
                now.recentDays(),
                now.most(),
                now.askAbove(),
                now.removedThere(),
                now.removedHere(),
                takesIf,
                now.givesIf(),
                null,
                null));
        assertThatThrownBy(() -> PolicyWords.policy(ID, 1, wanted, OwnFields.NONE))
                .isInstanceOfSatisfying(
                        Refusal.class, refused -> assertThat(refused.detail()).contains(says));
    }

    @Test
    void allThatDoesNotFitIsNamedAtOnce() {
        assertThatThrownBy(() -> PolicyWords.policy(ID, 1, rules("sideways", "burn", -1, "half past"), OwnFields.NONE))
                .isInstanceOfSatisfying(
                        Refusal.class,
                        refused -> assertThat(refused.detail())
                                .contains("“meetings” is “sideways”; it can be none, in, out, both", "“cancelled”")
                                .contains("“backDays”", "“times” has “half past”"));
    }
}
