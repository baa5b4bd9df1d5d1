package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** The service dies between writing to a calendar and hearing the answer, and comes back. */
@Tag("alone")
class CalendarKillTest {
    private static final Instant BEGINS =
            Instant.now().truncatedTo(ChronoUnit.HOURS).plus(30, ChronoUnit.HOURS);

    @Test
    void whateverIsCutOffBothSidesAgreeInTheEnd() throws Exception {
        try (Harbour h = Harbour.open("calendar_kill");
                Gate gate = new Gate(h.stand)) {
            h.bothWays();
            String who = h.person("cutoff", "rep");
            UUID account = h.account("cutoff");
            h.admin.post("/api/servers", new NewServer("gate", "caldav", "127.0.0.1", gate.port(), "/"), Object.class);
            h.admin.post(
                    "/api/connections", new NewConnection("cutoff", "gate", who, Providers.PASSWORD), Object.class);
            h.settle();
            Service me = h.process.signedIn("cutoff", Providers.PASSWORD);

            UUID item = CutOff.in(
                            h,
                            gate::after,
                            () -> me.post("/api/meetings", Diaries.wanted("One", BEGINS, account), MadeMeeting.class))
                    .item();
            CutOff.comesBack(h, gate);
            untilInStep(me, item);
            assertThat(h.providers.files(who))
                    .as("written once, and known again")
                    .hasSize(1);
            assertThat(h.timeline(account)).hasSize(1);

            CutOff.in(h, gate::before, () -> me.put("/api/meetings/" + item, change("Two", null), MadeMeeting.class));
            CutOff.comesBack(h, gate);
            untilInStep(me, item);
            assertThat(file(h, who)).contains("SUMMARY:Two");

            // somebody changes it in the calendar before the service is back: both changes live, and neither was in the
            // other's way
            CutOff.in(h, gate::after, () -> me.put("/api/meetings/" + item, change("Three", null), MadeMeeting.class));
            soon().until(gate::isSprung);
            h.providers.file(
                    who,
                    h.providers.files(who).get(0),
                    file(h, who).replace("END:VEVENT", "LOCATION:Pier 9\r\nEND:VEVENT"));
            CutOff.comesBack(h, gate);
            soon().until(() -> me.get("/api/meetings/" + item, MeetingDetail.class)
                    .meeting()
                    .place()
                    .equals("Pier 9"));
            untilInStep(me, item);
            MeetingDetail detail = me.get("/api/meetings/" + item, MeetingDetail.class);
            assertThat(detail.meeting().title()).isEqualTo("Three");
            assertThat(detail.conflicts()).isEmpty();

            CutOff.in(h, gate::after, () -> {
                me.delete("/api/meetings/" + item);
                return true;
            });
            CutOff.comesBack(h, gate);
            soon().until(() ->
                    h.timeline(account).isEmpty() && h.providers.files(who).isEmpty());
            h.settle();
            assertThat(h.process.count("SELECT count(*) FROM activity")).isZero();
            h.process.service.stop();
        }
    }

    private static String file(Harbour h, String who) throws Exception {
        return h.providers.file(who, h.providers.files(who).get(0)).orElse("");
    }

    private static MeetingChange change(@Nullable String title, @Nullable Instant begins) {
        return new MeetingChange(title, begins, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    private static void untilInStep(Service me, UUID item) {
        soon().until(() -> {
            MeetingDetail d = me.get("/api/meetings/" + item, MeetingDetail.class);
            return d.stand() != null && d.stand().state().equals("in-step");
        });
    }
}
