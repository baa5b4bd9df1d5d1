package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.PolicyApi.ConditionRule;
import jandrel.api.PolicyApi.OpeningInfo;
import jandrel.api.PolicyApi.OpeningRules;
import jandrel.api.PolicyApi.OpeningTrial;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.api.PolicyApi.WouldOpen;
import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import jandrel.api.TriageApi.DeedInfo;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Opportunities that meetings open where a policy says so: rehearsed, opened, joined, explained and taken back. */
class OpeningByMeetingTest extends Diaries {
    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("acceptance_opening", Map.of("JANDREL_LOOK_EVERY", "1s"));
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private static OpeningRules rules(String does, String word, ConditionRule... conditions) {
        return new OpeningRules(
                does,
                List.of(conditions),
                List.of(word),
                List.of(),
                List.of("meeting"),
                "talking",
                "fair",
                "organiser",
                "{account}: {title}",
                true,
                true,
                false,
                30,
                50);
    }

    private static Optional<RecordInfo> record(String kind, String account) throws Exception {
        return h.admin.get("/api/records?kind=" + kind + "&name=" + account, RecordPage.class).records().stream()
                .findFirst();
    }

    private static String policy() throws Exception {
        return Arrays.stream(h.admin.get("/api/policies", PolicyInfo[].class))
                .filter(p -> p.rules().name().equals("Everyone"))
                .findFirst()
                .orElseThrow()
                .id()
                .toString();
    }

    private static void meeting(Someone who, String title, int hours, String guest, String... more) throws Exception {
        List<String> lines = new java.util.ArrayList<>(List.of(
                "ORGANIZER;CN=Ours:mailto:" + who.address(), "ATTENDEE;CN=Ida Moe;PARTSTAT=ACCEPTED:mailto:" + guest));
        lines.addAll(List.of(more));
        event(who, title, hours, lines.toArray(String[]::new));
    }

    private static WouldOpen would(OpeningRules rules) throws Exception {
        return h.admin.post("/api/policies/" + policy() + "/would-open", new OpeningTrial(rules, 90), WouldOpen.class);
    }

    @Test
    void aFirstMeetingOpensAnOpportunityThatTheSecondJoinsUntilItIsTakenBack() throws Exception {
        Someone who = someone("opn-tess");
        meeting(who, "opn first talk", -50, "ida@opn-new.example");
        meeting(who, "opn terms", -26, "ida@opn-new.example", "ATTENDEE;CN=Moe:mailto:moe@opn-new.example");
        meeting(who, "opn secret", -24, "ida@opn-hush.example", "CLASS:PRIVATE");
        OpeningRules rules = rules("open", "opn", new ConditionRule("first-meeting", "is", 1));
        soon().until(() -> would(rules).opened() == 1);
        WouldOpen would = would(rules);
        assertThat(would.joined()).isEqualTo(1);
        assertThat(would.meetings())
                .filteredOn(m -> m.account().equals("opn-new.example"))
                .extracting(OpeningInfo::did, OpeningInfo::title)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple("opened", "opn first talk"),
                        org.assertj.core.groups.Tuple.tuple("joined", "opn terms"));
        assertThat(record("opportunity", "opn-new")).as("nothing is done").isEmpty();
        assertThatThrownBy(() -> would(rules("all", "opn", new ConditionRule("size", "is", 1))))
                .hasMessageContaining("it can be nothing, join, open")
                .hasMessageContaining("ours-invited");
        Client client = Client.of(h);
        assertThat(client.run("policy", "would-open", "Everyone", "--opens-words", "opn", "--opens-accounts", "on"))
                .contains("In the last 90 days this would have opened 1 opportunity and joined 1 meeting", "opn terms");
        assertThat(client.run("policy", "would-open", "Everyone", "--opens-words", "opn"))
                .contains("opened 0 opportunities", "No account has the domain opn-new.example, and none is made.");

        h.everyone(Map.of("opening", rules));
        soon().until(() -> record("opportunity", "opn").isPresent());
        RecordInfo opened = record("opportunity", "opn").orElseThrow();
        assertThat(opened.name()).isEqualTo("Opn-new: opn first talk");
        assertThat(opened.detail()).isEqualTo("made by the policy “Everyone”");
        assertThat(opened.stage()).isEqualTo("talking");
        assertThat(opened.accountName()).isEqualTo("Opn-new");
        soon().until(() -> h.timeline(opened.id()).size() == 2);
        assertThat(record("contact", "Moe").orElseThrow().accountName()).isEqualTo("Opn-new");
        assertThat(h.admin.get("/api/records/" + opened.id() + "/openings", OpeningInfo[].class))
                .extracting(OpeningInfo::did, OpeningInfo::title)
                .containsExactly(
                        org.assertj.core.groups.Tuple.tuple("opened", "opn first talk"),
                        org.assertj.core.groups.Tuple.tuple("joined", "opn terms"));
        ActivityInfo first = h.timeline(opened.id()).stream()
                .filter(a -> a.subject().equals("opn first talk"))
                .findFirst()
                .orElseThrow();
        assertThat(client.run("why", first.id().toString()))
                .contains("It opened “Opn-new: opn first talk”. opn-new.example had no open opportunity."
                        + " By the policy “Everyone”.");

        // taken back as a batch: nothing stays, and it does not begin again
        DeedInfo deed = Arrays.stream(h.admin.get("/api/triage/deeds", DeedInfo[].class))
                .filter(d -> d.says().startsWith("opened the opportunity Opn-new"))
                .findFirst()
                .orElseThrow();
        assertThat(deed.by()).isEqualTo("service");
        assertThat(h.admin
                        .ask("POST", "/api/triage/deeds/" + deed.id() + "/undo", "{}")
                        .statusCode())
                .isEqualTo(204);
        meeting(who, "opn third talk", -4, "una@opn-new.example");
        Thread.sleep(4_000);
        assertThat(record("opportunity", "opn")).isEmpty();
        assertThat(record("contact", "Moe")).isEmpty();
        assertThat(record("account", "Opn-new")).isEmpty();
        h.everyone(Map.of("opening", rules("nothing", "opn")));
    }

    @Test
    void whatSomebodyKeepsPrivateIsInNoRehearsalOfOthers() throws Exception {
        Someone who = someone("opn-priv");
        meeting(who, "prv hush hush", -70, "ida@opn-priv.example", "CLASS:PRIVATE");
        meeting(who, "prv in the open", -60, "ida@opn-priv.example");
        soon().until(() -> h.timeline(who.account()).size() == 2);
        WouldOpen would = would(rules("open", "prv"));
        assertThat(would.meetings()).extracting(OpeningInfo::title).contains("prv in the open");
        assertThat(would.toString()).doesNotContain("hush");
        ActivityInfo hidden = h.timeline(who.account()).stream()
                .filter(a -> !a.visibility().equals("full"))
                .findFirst()
                .orElseThrow();
        assertThat(h.admin
                        .ask("GET", "/api/items/" + hidden.id() + "/opening", "")
                        .statusCode())
                .isEqualTo(404);
        assertThat(who.service()
                        .ask("POST", "/api/policies/" + policy() + "/would-open", "{}")
                        .statusCode())
                .isEqualTo(403);
    }
}
