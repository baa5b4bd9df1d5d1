package jandrel.service.policy;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.PolicyApi.AudienceInfo;
import jandrel.api.PolicyApi.BookRule;
import jandrel.api.PolicyApi.ConditionRule;
import jandrel.api.PolicyApi.CreationRules;
import jandrel.api.PolicyApi.FolderRules;
import jandrel.api.PolicyApi.KeepingRules;
import jandrel.api.PolicyApi.OpeningRules;
import jandrel.api.PolicyApi.PolicyRules;
import jandrel.core.policy.Policy;
import jandrel.service.kernel.Refusal;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

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
                new BookRule("categories", List.of("customers"), false, "recent", 30, 100, 5, "remove", "remove"),
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
        Policy policy = PolicyWords.policy(ID, 4, rules);
        assertThat(policy.version()).isEqualTo(4);
        assertThat(PolicyWords.policy(ID, 4, PolicyWords.rules(policy))).isEqualTo(policy);
    }

    @Test
    void whatIsKeptAtFirstSurvivesTheWayThroughTheWords() {
        Policy first = Policy.first();
        assertThat(PolicyWords.policy(first.id(), first.version(), PolicyWords.rules(first)))
                .isEqualTo(first);
    }

    @Test
    void allThatDoesNotFitIsNamedAtOnce() {
        assertThatThrownBy(() -> PolicyWords.policy(ID, 1, rules("sideways", "burn", -1, "half past")))
                .isInstanceOfSatisfying(
                        Refusal.class,
                        refused -> assertThat(refused.detail())
                                .contains("“meetings” is “sideways”; it can be none, in, out, both", "“cancelled”")
                                .contains("“backDays”", "“times” has “half past”"));
    }
}
