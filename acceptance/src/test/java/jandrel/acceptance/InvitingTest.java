package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.MeetingApi.GuestInfo;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.api.MeetingApi.NewMeeting;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.subethamail.smtp.helper.SimpleMessageListener;
import org.subethamail.smtp.server.SMTPServer;

/** Guests are asked by mail, or by a calendar server that does so, and their answers come back. */
class InvitingTest {
    private static final Instant HOUR = Instant.now().truncatedTo(ChronoUnit.HOURS);
    private static final String REFUSED = "gone@inviter.example";
    private static final List<Sent> SENT = new CopyOnWriteArrayList<>();
    private static SMTPServer mailServer;
    private static Harbour h;

    /** @param text of the message, unfolded, without soft line breaks */
    private record Sent(String to, String text) {}

    @BeforeAll
    static void open() throws Exception {
        mailServer = SMTPServer.port(StandinProcess.freePort())
                .messageHandler((context, from, to, data) -> SENT.add(new Sent(to, unfolded(data))))
                .build();
        mailServer.start();
        h = Harbour.open(
                "inviting",
                Map.of(
                        "JANDREL_LOOK_EVERY", "1s",
                        "JANDREL_SMTP_HOST", "127.0.0.1",
                        "JANDREL_SMTP_PORT", String.valueOf(mailServer.getPort()),
                        "JANDREL_SMTP_TLS", "false",
                        "JANDREL_SMTP_FROM", "jandrel@corvane.example"));
        h.bothWays();
    }

    @AfterAll
    static void close() {
        h.close();
        mailServer.stop();
    }

    private static String unfolded(byte[] data) {
        return new String(data, StandardCharsets.UTF_8)
                .replace("=\r\n", "")
                .replace("\r\n ", "")
                .replace("=3D", "=");
    }

    private static Service someone(String key) throws Exception {
        h.person(key, "rep");
        h.account(key);
        return h.process.signedIn(key, Providers.PASSWORD);
    }

    private static NewMeeting asking(UUID record, Boolean ask, String... guests) {
        return new NewMeeting(
                "meeting",
                "Lay the buoys",
                HOUR.plus(30, ChronoUnit.HOURS),
                HOUR.plus(31, ChronoUnit.HOURS),
                null,
                "Europe/Oslo",
                List.of(record),
                List.of(guests),
                null,
                "Pier 3",
                null,
                "Bring the chart",
                null,
                null,
                15,
                ask);
    }

    private static MeetingChange moved(int hours) {
        Instant to = HOUR.plus(hours, ChronoUnit.HOURS);
        return new MeetingChange(null, to, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    private static GuestInfo guest(Service who, UUID item, String address) throws Exception {
        return who.get("/api/meetings/" + item, MeetingDetail.class).guests().stream()
                .filter(g -> g.address().equals(address))
                .findFirst()
                .orElseThrow();
    }

    private static List<Sent> to(String guest) {
        return SENT.stream().filter(s -> s.to().equals(guest)).toList();
    }

    private static String after(String text, String begin) {
        int at = text.indexOf(begin) + begin.length();
        return text.substring(at, text.indexOf("\r\n", at));
    }

    private static void answer(String key, String from, String guest, String uid, int sequence, String says)
            throws Exception {
        String at = Instant.now().toString().replaceAll("[-:]|\\.\\d+", "");
        h.providers.mail(
                key + "@corvane.example",
                "",
                Instant.now(),
                "Message-ID: <" + UUID.randomUUID() + "@inviter.example>\r\nFrom: " + from + "\r\nTo: " + key
                        + "@corvane.example\r\nSubject: Re\r\nMIME-Version: 1.0\r\n"
                        + "Content-Type: text/calendar; method=REPLY; charset=UTF-8\r\n\r\n"
                        + "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Skarvik//test//EN\r\nMETHOD:REPLY\r\nBEGIN:VEVENT\r\n"
                        + "UID:" + uid + "\r\nDTSTAMP:" + at + "\r\nSEQUENCE:" + sequence + "\r\nORGANIZER:mailto:"
                        + key
                        + "@corvane.example\r\nATTENDEE;PARTSTAT=" + says + ":mailto:" + guest
                        + "\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n");
    }

    @Test
    void guestsAreAskedByMailAndTheirAnswersComeBackToBothSides() throws Exception {
        Service me = someone("inviter");
        h.connectMail("inviter");
        h.connectCalendar("inviter");
        h.settle();
        String bram = "bram@inviter.example";
        MadeMeeting made = me.post(
                "/api/meetings",
                asking(h.record("Account inviter"), true, bram, "other@inviter.example"),
                MadeMeeting.class);
        assertThat(made.says()).contains("its 2 guests are told by mail");
        soon().until(() -> to(bram).size() == 1 && to("other@inviter.example").size() == 1);
        String asked = to(bram).get(0).text();
        assertThat(asked)
                .contains("From: Person inviter <inviter@corvane.example>", "Sender: jandrel@corvane.example")
                .contains("Subject: Invitation: Lay the buoys", "method=REQUEST", "METHOD:REQUEST", "SEQUENCE:0")
                .contains(
                        "ATTENDEE;PARTSTAT=NEEDS-ACTION;CN=Bram of inviter;RSVP=TRUE:mailto:" + bram,
                        "Where: Pier 3",
                        "Bring the chart")
                .doesNotContain("X-JANDREL", "VALARM");
        String uid = after(asked, "UID:");
        assertThat(after(asked, "Message-ID: ")).startsWith("<" + uid.replace('@', '.') + ".0.");
        assertThat(guest(me, made.item(), bram).answer()).isEqualTo("none");
        assertThat(guest(me, made.item(), bram).asked()).isEqualTo("told by mail");

        // somebody else in bram's name, and somebody who was not asked, say nothing
        answer("inviter", "other@inviter.example", bram, uid, 0, "DECLINED");
        answer("inviter", "stranger@inviter.example", "stranger@inviter.example", uid, 0, "ACCEPTED");
        answer("inviter", bram, bram, uid, 0, "ACCEPTED");
        soon().until(() -> guest(me, made.item(), bram).answer().equals("accepted"));
        String file = h.providers.files("inviter@corvane.example").get(0);
        soon().until(() ->
                h.providers.file("inviter@corvane.example", file).orElse("").contains("PARTSTAT=ACCEPTED"));
        assertThat(guest(me, made.item(), "other@inviter.example").answer()).isEqualTo("none");

        // another time asks anew, and an answer to the old one says nothing of it
        me.put("/api/meetings/" + made.item(), moved(40), MadeMeeting.class);
        soon().until(() -> to(bram).size() == 2);
        String changed = to(bram).get(1).text();
        assertThat(changed).contains("Subject: Changed: Lay the buoys", "UID:" + uid);
        int sequence = Integer.parseInt(after(changed, "SEQUENCE:"));
        assertThat(sequence).isPositive();
        soon().until(() -> guest(me, made.item(), bram).answer().equals("none"));
        answer("inviter", bram, bram, uid, 0, "DECLINED");
        answer("inviter", "other@inviter.example", "other@inviter.example", uid, sequence, "TENTATIVE");
        soon().until(() ->
                guest(me, made.item(), "other@inviter.example").answer().equals("tentative"));
        assertThat(guest(me, made.item(), bram).answer()).isEqualTo("none");

        me.delete("/api/meetings/" + made.item());
        soon().until(() -> to(bram).size() == 3);
        assertThat(to(bram).get(2).text())
                .contains("Subject: Cancelled: Lay the buoys", "METHOD:CANCEL", "STATUS:CANCELLED");
        // nobody was told the same twice
        Thread.sleep(2_500);
        assertThat(to(bram)).hasSize(3);
    }

    @Test
    void aGuestWhomTheMailServerRefusesIsShownAsSuch() throws Exception {
        SMTPServer strict = SMTPServer.port(StandinProcess.freePort())
                .simpleMessageListener(new Refusing())
                .build();
        strict.start();
        try (Harbour other = Harbour.open(
                "inviting_refused",
                Map.of(
                        "JANDREL_SMTP_HOST", "127.0.0.1",
                        "JANDREL_SMTP_PORT", String.valueOf(strict.getPort()),
                        "JANDREL_SMTP_TLS", "false",
                        "JANDREL_SMTP_FROM", "jandrel@corvane.example"))) {
            other.person("refuser", "rep");
            UUID account = other.account("refuser");
            Service me = other.process.signedIn("refuser", Providers.PASSWORD);
            UUID item = me.post(
                            "/api/meetings", asking(account, true, REFUSED, "fine@inviter.example"), MadeMeeting.class)
                    .item();
            soon().until(() -> !guest(me, item, REFUSED).reached());
            assertThat(guest(me, item, REFUSED).asked()).contains("could not be asked", "553", "address unknown");
            assertThat(guest(me, item, "fine@inviter.example").asked()).isEqualTo("told by mail");
        } finally {
            strict.stop();
        }
    }

    private static final class Refusing implements SimpleMessageListener {
        @Override
        public boolean accept(String from, String to) {
            return !to.equals(REFUSED);
        }

        @Override
        public void deliver(String from, String to, java.io.InputStream data) {
            // nobody reads it
        }
    }

    @Test
    void aCalendarServerThatAsksGuestsItselfIsLeftToIt() throws Exception {
        Service me = someone("scheduler");
        String who = "scheduler@corvane.example";
        try (Gate gate = new Gate(h.stand)) {
            gate.schedules();
            h.admin.post(
                    "/api/servers", new NewServer("scheduling", "caldav", "127.0.0.1", gate.port(), "/"), Object.class);
            h.admin.post(
                    "/api/connections",
                    new NewConnection("scheduler", "scheduling", who, Providers.PASSWORD),
                    Object.class);
            h.settle();
            String bram = "bram@scheduler.example";
            UUID record = h.record("Account scheduler");
            MadeMeeting made = me.post("/api/meetings", asking(record, true, bram), MadeMeeting.class);
            assertThat(made.says()).contains("its guest is told by the calendar server");
            soon().until(() -> guest(me, made.item(), bram).asked().equals("told by the calendar server"));
            soon().until(() -> h.providers.files(who).size() == 1);
            String file = h.providers.files(who).get(0);
            String text = h.providers.file(who, file).orElse("");
            assertThat(text).contains("RSVP=TRUE:mailto:" + bram).doesNotContain("SCHEDULE-AGENT");
            assertThat(to(bram)).isEmpty();
            h.providers.file(
                    who, file, text.replace("PARTSTAT=NEEDS-ACTION", "PARTSTAT=ACCEPTED;SCHEDULE-STATUS=\"2.0\""));
            soon().until(() -> guest(me, made.item(), bram).answer().equals("accepted"));
            // and where nobody is to be asked, the server is told so
            me.post("/api/meetings", asking(record, false, bram), MadeMeeting.class);
            soon().until(() -> h.providers.files(who).size() == 2);
            String other = h.providers.files(who).stream()
                    .filter(f -> !f.equals(file))
                    .findFirst()
                    .orElseThrow();
            assertThat(h.providers.file(who, other).orElse("")).contains("SCHEDULE-AGENT=NONE");
        }
    }
}
