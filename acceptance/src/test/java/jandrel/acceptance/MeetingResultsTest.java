package jandrel.acceptance;

import static jandrel.acceptance.Browsing.button;
import static org.assertj.core.api.Assertions.assertThat;

import com.microsoft.playwright.Page;
import jandrel.api.MeasureApi.MeasureLine;
import jandrel.api.MeasureApi.MeasureSheet;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.api.MeetingApi.MeetingResult;
import jandrel.api.MeetingApi.SaidInfo;
import jandrel.demo.Providers;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The company's own results of meetings: set up, said, changed, said by a title, counted. */
class MeetingResultsTest extends Diaries {
    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("meeting_results", Map.of("JANDREL_LOOK_EVERY", "1s"));
        h.bothWays();
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private static UUID met(Someone who, String title, int hours, boolean secret) throws Exception {
        return who.service()
                .post("/api/meetings", wanted(title, in(hours), who.account(), secret), MadeMeeting.class)
                .item();
    }

    private static int say(Someone who, UUID item, String result) throws Exception {
        return who.service()
                .ask("PUT", "/api/meetings/" + item + "/result", Client.json(new MeetingResult(result)))
                .statusCode();
    }

    @Test
    void whatIsSaidOfAMeetingIsCountedAndWhatWasSaidBeforeIsKept() throws Exception {
        Client client = Client.of(h);
        assertThat(client.run("results", "Offer made=offer sent|quote", "No fit", "Meet again"))
                .contains("Offer made", "somebody, or offer sent, quote", "3 results");
        assertThat(client.run("results", "No fit", "no FIT")).contains("“no FIT” is there twice");
        Someone who = someone("res-tess");
        UUID item = met(who, "Introduction", -30, false);
        assertThat(say(who, item, "no fit")).isEqualTo(204);
        assertThat(say(who, item, "Meet again")).isEqualTo(204);
        assertThat(say(who, item, "meet AGAIN")).as("said twice, kept once").isEqualTo(204);
        MeetingDetail d = open(who, item);
        assertThat(d.meeting().result()).isEqualTo("Meet again");
        assertThat(d.results()).extracting(SaidInfo::name).containsExactly("Meet again", "No fit");
        assertThat(say(who, item, "")).isEqualTo(204);
        assertThat(open(who, item).meeting().result()).isEmpty();
        assertThat(open(who, item).results()).hasSize(3);
        assertThat(say(who, item, "nonsense")).isEqualTo(400);
        UUID ahead = met(who, "Tomorrow", 30, false);
        assertThat(say(who, ahead, "No fit")).isEqualTo(400);
        assertThat(client.run("result", item.toString(), "No fit")).isEmpty();
        assertThat(client.run("meeting", item.toString())).contains("result: No fit", "taken back", "Person res-tess");

        // a title says it by itself until somebody says otherwise
        Someone other = someone("res-una");
        UUID titled = met(other, "Terms (Quote)", -40, false);
        assertThat(open(other, titled).meeting().result()).isEqualTo("Offer made");
        assertThat(open(other, titled).results()).isEmpty();
        assertThat(say(other, titled, "")).isEqualTo(204);
        assertThat(open(other, titled).meeting().result())
                .as("a person's word counts before the title's")
                .isEmpty();
        assertThat(say(other, titled, "Offer made")).isEqualTo(204);
        MeasureSheet by = h.admin.get("/api/measures/first-meetings?by=result", MeasureSheet.class);
        assertThat(by.lines()).extracting(MeasureLine::label).contains("No fit", "Offer made");
        // a private meeting says it to nobody but its owner
        UUID secret = met(other, "Secret quote", -50, true);
        assertThat(open(other, secret).meeting().result()).isEqualTo("Offer made");
        assertThat(h.admin
                        .get("/api/measures/first-meetings?by=result", MeasureSheet.class)
                        .lines())
                .extracting(MeasureLine::label)
                .contains("No fit")
                .doesNotContain("Offer made");
        assertThat(say(who, secret, "No fit")).isEqualTo(404);
    }

    @Test
    void theConsoleSaysItInOneClick() throws Exception {
        Client.of(h).run("results", "Offer made=offer sent|quote", "No fit", "Meet again");
        Someone who = someone("res-vera");
        UUID item = met(who, "Walk along the pier", -3, false);
        try (Browsing browsing = Browsing.open()) {
            Page page = browsing.page();
            Browsing.signIn(page, h.process.url() + "/calendar?open=" + item, "res-vera", Providers.PASSWORD);
            button(page, "Meet again").click();
            page.getByText("Result: Meet again").waitFor();
            assertThat(open(who, item).meeting().result()).isEqualTo("Meet again");
            button(page, "Meet again").click();
            page.getByText("No result any more").waitFor();
            assertThat(open(who, item).results()).extracting(SaidInfo::name).isEqualTo(List.of("", "Meet again"));
        }
    }
}
