package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ActivityApi.ActivityDetail;
import jandrel.api.DecisionApi.DecisionInfo;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What people send to the service's own address, by a real mail program (msmtp), over TLS. */
class HandOverTest {
    private static final int PORT = 22_290;
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(3, ChronoUnit.DAYS);
    private static Harbour h;

    @BeforeAll
    static void open() {
        Path tls = jandrel.demo.Stand.fromEnvironment().dir().resolve("tls");
        h = Harbour.open(
                "acceptance_hand_over",
                Map.of(
                        "JANDREL_HAND_OVER_PORT",
                        String.valueOf(PORT),
                        "JANDREL_HAND_OVER_RECIPIENT",
                        "log@jandrel.example",
                        "JANDREL_HAND_OVER_CERTIFICATE",
                        tls.resolve("server.pem").toString(),
                        "JANDREL_HAND_OVER_KEY",
                        tls.resolve("server.key").toString(),
                        "JANDREL_HAND_OVER_BELIEVED",
                        "mx.corvane.example",
                        "JANDREL_HAND_OVER_LARGEST",
                        "200000",
                        "JANDREL_HAND_OVER_PER_HOUR",
                        "6"));
    }

    @AfterAll
    static void close() {
        h.close();
    }

    record Sent(int code, String says) {}

    /** As the company's own mail server passes on what somebody sent who signed in there. */
    private static Sent send(String from, String to, String message, String... more) throws Exception {
        String proven = "Authentication-Results: mx.corvane.example; auth=pass smtp.auth=" + from + "\r\n" + message;
        return send(h, PORT, from, to, proven, more);
    }

    static Sent send(Harbour h, int port, String from, String message) throws Exception {
        return send(h, port, from, "log@jandrel.example", message);
    }

    private static Sent send(Harbour h, int port, String from, String to, String message, String... more)
            throws Exception {
        List<String> command = new java.util.ArrayList<>(List.of(
                "msmtp",
                "--host=localhost",
                "--port=" + port,
                "--tls=on",
                "--tls-starttls=on",
                "--tls-trust-file=" + h.stand.value("CA"),
                "--from=" + from));
        command.addAll(List.of(more));
        command.add(to);
        Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
        process.getOutputStream().write(message.getBytes(StandardCharsets.UTF_8));
        process.getOutputStream().close();
        String says = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        return new Sent(process.waitFor(), says);
    }

    @Test
    void aMessageSentInBlindCopyStandsOnceWithItsTextAndSaysThatItWasDoneByHand() throws Exception {
        String who = h.person("bea", "rep");
        UUID account = h.account("copied");
        String message = letter("copy-1", DAY, who, "bram@copied.example", "Nine buoys", "Nine of them.");
        Sent sent = send(who, "log@jandrel.example", message);
        assertThat(sent.code()).as(sent.says()).isZero();
        until(() -> h.timeline(account).size(), 1);
        ActivityDetail opened =
                h.admin.get("/api/activities/" + h.timeline(account).get(0).id(), ActivityDetail.class);
        assertThat(opened.text()).contains("Nine of them.");
        assertThat(opened.decisions().get(0).trail().get(0))
                .isEqualTo("Its owner made it count by hand (sent to the service’s own address).");
        // the same message in the mailbox is the same activity
        h.providers.mail(who, ".Sent", DAY, message);
        h.connectMail("bea");
        h.settle();
        until(() -> h.decisions("address=bram@copied.example").size(), 2);
        assertThat(h.timeline(account)).hasSize(1);
        until(() -> h.process.count("SELECT count(*) FROM handed"), 0L);
    }

    @Test
    void whatMatchesNobodyYetKeepsItsTextUntilItDoes() throws Exception {
        String who = h.person("cam", "rep");
        Sent sent = send(
                who,
                "log@jandrel.example",
                letter("wait-1", DAY, who, "ida@later.example", "Early", "The early text."));
        assertThat(sent.code()).as(sent.says()).isZero();
        until(() -> h.decisions("verdict=waiting&address=ida@later.example").size(), 1);
        assertThat(h.process.count("SELECT count(*) FROM handed WHERE position('early text'::bytea IN sealed) > 0"))
                .isZero();
        UUID account = h.account("later");
        until(() -> h.timeline(account).size(), 1);
        UUID activity = h.timeline(account).get(0).id();
        until(
                () -> h.admin
                        .get("/api/activities/" + activity, ActivityDetail.class)
                        .text()
                        .contains("The early text."),
                true);
    }

    @Test
    void onlyPeopleOfTheCompanyHandOverAndOnlyWhatTheyWrote() throws Exception {
        String who = h.person("dan", "rep");
        String own = letter("refuse-1", DAY, who, "bram@copied.example", "s", "x");
        assertThat(send("mallory@evil.example", "log@jandrel.example", own).says())
                .contains("550", "known addresses");
        assertThat(send(who, "somebody@else.example", own).says()).contains("550", "Nobody of that address");
        String forged = letter("refuse-2", DAY, "boss@corvane.example", "bram@copied.example", "s", "x");
        assertThat(send(who, "log@jandrel.example", forged).says()).contains("550", "From is not your address");
        String large = letter("refuse-3", DAY, who, "bram@copied.example", "s", "0123456789\r\n".repeat(20_000));
        assertThat(send(who, "log@jandrel.example", large).says()).contains("552");
        assertThat(send(who, "log@jandrel.example", own, "--tls=off").code()).isNotZero();
        assertThat(h.decisions("kind=mail")).extracting(DecisionInfo::subject).doesNotContain("s");
    }

    @Test
    void nobodyFloodsTheTimelines() throws Exception {
        String who = h.person("eve", "rep");
        int taken = 0;
        for (int i = 0; i < 8; i++) {
            taken += send(who, "log@jandrel.example", letter("flood-" + i, DAY, who, "x@flood.example", "s" + i, "x"))
                                    .code()
                            == 0
                    ? 1
                    : 0;
        }
        assertThat(taken).isEqualTo(6);
    }
}
