package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ActivityApi.ActivityDetail;
import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ActivityApi.TimelinePage;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.nio.file.Path;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * A rep knows the name of somebody else's private item, and brings copies of it that say what they like: by calendar, by IMAP and by
 * hand-over, before and after the true one. They read nothing by it, and change nothing for anybody.
 */
class ForgeryTest {
    private static final int PORT = 22_291;
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(2, ChronoUnit.DAYS);
    private static Harbour h;

    @BeforeAll
    static void open() throws Exception {
        Path tls = jandrel.demo.Stand.fromEnvironment().dir().resolve("tls");
        h = Harbour.open(
                "acceptance_forgery",
                Map.of(
                        "JANDREL_HAND_OVER_PORT",
                        String.valueOf(PORT),
                        "JANDREL_HAND_OVER_RECIPIENT",
                        "log@jandrel.example",
                        "JANDREL_HAND_OVER_BELIEVED",
                        "mx.corvane.example",
                        "JANDREL_HAND_OVER_CERTIFICATE",
                        tls.resolve("server.pem").toString(),
                        "JANDREL_HAND_OVER_KEY",
                        tls.resolve("server.key").toString()));
        h.sharing("those-on-it");
    }

    @AfterAll
    static void close() {
        h.close();
    }

    private record Pair(String name, String victim, String forger, UUID account, Service reads, Service forges) {
        static Pair of(String name) throws Exception {
            String victim = h.person(name + "v", "rep");
            String forger = h.person(name + "e", "rep");
            UUID account = h.account(name);
            return new Pair(
                    name,
                    victim,
                    forger,
                    account,
                    h.process.signedIn(name + "v", Providers.PASSWORD),
                    h.process.signedIn(name + "e", Providers.PASSWORD));
        }

        List<ActivityInfo> timeline(Service service) throws Exception {
            return service.get("/api/records/" + account + "/timeline?limit=50", TimelinePage.class)
                    .activities();
        }

        /** Every way by which the forger could get at what the true one says. */
        String allThatTheForgerReads() throws Exception {
            h.indexed();
            StringBuilder all = new StringBuilder();
            List<String> ways = new ArrayList<>(List.of(
                    "/api/records/" + account + "/timeline?limit=50",
                    "/api/records/" + account + "/timeline.csv",
                    "/api/decisions?limit=200",
                    "/api/decisions.csv",
                    "/api/search?words=tidewater",
                    "/api/calendar?view=day&from=" + DAY.minus(1, ChronoUnit.DAYS) + "&until="
                            + DAY.plus(9, ChronoUnit.DAYS)));
            timeline(forges).forEach(a -> ways.add("/api/activities/" + a.id()));
            timeline(forges).forEach(a -> ways.add("/api/meetings/" + a.id()));
            for (String way : ways) {
                all.append(forges.ask("GET", way, "").body()).append('\n');
            }
            return all.toString();
        }
    }

    private static void event(String address, String file, String uid, String organiser, String title, String... more)
            throws Exception {
        List<String> lines = new ArrayList<>(List.of(
                "BEGIN:VEVENT",
                "UID:" + uid,
                "DTSTAMP:20260101T000000Z",
                "DTSTART:" + DAY.plus(1, ChronoUnit.DAYS).toString().replaceAll("[-:]", ""),
                "DURATION:PT1H",
                "SUMMARY:" + title,
                "ORGANIZER:mailto:" + organiser));
        lines.addAll(List.of(more));
        lines.add("END:VEVENT");
        h.providers.event(address, file, lines.toArray(String[]::new));
    }

    @ParameterizedTest(name = "{0}, true one first: {1}")
    @CsvSource({"mine, true", "mine, false", "theirs, true", "theirs, false"})
    void aMeetingIsNotTakenOverByItsName(String claims, boolean trueFirst) throws Exception {
        Pair p = Pair.of("fm" + claims.charAt(0) + (trueFirst ? "t" : "f"));
        String uid = p.name() + "@secret.example";
        String guest = "ATTENDEE:mailto:bram@" + p.name() + ".example";
        event(p.victim(), "v.ics", uid, p.victim(), "Sale of the tidewater site", guest, "CLASS:PRIVATE");
        event(
                p.forger(),
                "e.ics",
                uid,
                claims.equals("mine") ? p.forger() : p.victim(),
                "Forged",
                guest,
                "ATTENDEE:mailto:" + p.forger(),
                "SEQUENCE:7");
        h.connectCalendar(p.name() + (trueFirst ? "v" : "e"));
        h.settle();
        h.connectCalendar(p.name() + (trueFirst ? "e" : "v"));
        h.settle();
        until(() -> p.timeline(h.admin).size(), 2);

        assertThat(p.allThatTheForgerReads()).doesNotContain("tidewater", uid);
        assertThat(p.timeline(p.forges()))
                .filteredOn(a -> a.visibility().equals("full"))
                .extracting(ActivityInfo::subject)
                .containsExactly("Forged");
        ActivityInfo own = p.timeline(p.reads()).stream()
                .filter(a -> a.subject().equals("Sale of the tidewater site"))
                .findFirst()
                .orElseThrow();
        assertThat(own.owners()).extracting(o -> o.name()).containsExactly("Person " + p.name() + "v");
        // nor can it be opened, closed, deleted or changed by who only knows its name
        for (String call : List.of(
                "PUT /api/activities/%s/readers {\"opens\":true,\"people\":[\"" + p.name() + "e\"],\"teams\":[]}",
                "DELETE /api/meetings/%s ",
                "PUT /api/meetings/%s {\"title\":\"Mine now\"}")) {
            String[] words = call.split(" ", 3);
            assertThat(p.forges()
                            .ask(words[0], words[1].formatted(own.id()), words[2])
                            .statusCode())
                    .as(call)
                    .isBetween(400, 499);
        }
        assertThat(h.providers.file(p.victim(), "v.ics").orElseThrow()).contains("Sale of the tidewater site");
    }

    @ParameterizedTest
    @ValueSource(booleans = {true, false})
    void aMessageIsNotReplacedByOneThatRepeatsItsName(boolean trueFirst) throws Exception {
        Pair p = Pair.of("fi" + (trueFirst ? "t" : "f"));
        String from = "bram@" + p.name() + ".example";
        String id = p.name() + "-1";
        h.providers.mail(
                p.victim(),
                "",
                DAY,
                letter(id, DAY, from, p.victim(), "Offer", "The tidewater price is nine million."));
        h.providers.mail(
                p.forger(),
                "",
                DAY,
                letter(
                        id,
                        DAY,
                        from,
                        p.victim() + ", " + p.forger(),
                        "Offer",
                        "The price is two crowns, no more, said a forger."));
        h.connectMail(p.name() + (trueFirst ? "v" : "e"));
        h.settle();
        h.connectMail(p.name() + (trueFirst ? "e" : "v"));
        h.settle();
        until(() -> p.timeline(h.admin).size(), 2);

        assertThat(p.allThatTheForgerReads()).doesNotContain("nine million");
        List<String> texts = new ArrayList<>();
        for (ActivityInfo a : p.timeline(p.reads())) {
            texts.add(p.reads()
                    .get("/api/activities/" + a.id(), ActivityDetail.class)
                    .text()
                    .strip());
        }
        assertThat(texts).contains("The tidewater price is nine million.");
    }

    @Test
    void whatIsHandedOverInSomebodysNameWaitsAndReplacesNothing() throws Exception {
        Pair p = Pair.of("fh");
        String to = "bram@" + p.name() + ".example";
        h.providers.mail(p.victim(), ".Sent", DAY, letter("fh-1", DAY, p.victim(), to, "Offer", "What I truly wrote."));
        h.connectMail("fhv");
        h.settle();
        // the company's relay passes it on: anybody can write MAIL FROM and From
        HandOverTest.Sent sent = HandOverTest.send(
                h, PORT, p.victim(), letter("fh-1", DAY, p.victim(), to, "Offer", "What a stranger made up."));
        assertThat(sent.code()).as(sent.says()).isZero();
        HandOverTest.Sent claimed = HandOverTest.send(
                h,
                PORT,
                p.victim(),
                "Authentication-Results: mx.evil.example; dkim=pass header.d=corvane.example\r\n"
                        + letter("fh-2", DAY, p.victim(), to, "Another", "What a stranger made up."));
        assertThat(claimed.code()).as(claimed.says()).isZero();
        until(() -> h.decisions("verdict=waiting&rule=unproven").size(), 2);
        assertThat(p.timeline(p.reads())).hasSize(1);
        assertThat(p.reads()
                        .get("/api/activities/" + p.timeline(p.reads()).get(0).id(), ActivityDetail.class)
                        .text())
                .contains("What I truly wrote.");
    }

    @Test
    void blindCopiesAreForTheSenderAlone() throws Exception {
        Pair p = Pair.of("fb");
        h.account("fbunseen");
        String to = "bram@" + p.name() + ".example";
        String message = letter("fb-1", DAY, p.victim(), to + ", " + p.forger(), "Price list", "Enclosed.");
        h.providers.mail(
                p.victim(),
                ".Sent",
                DAY,
                message.replace("Subject:", "Bcc: bram@fbunseen.example, hidden@nowhere.example\r\nSubject:"));
        h.providers.mail(p.forger(), "", DAY, message);
        h.connectMail("fbv");
        h.connectMail("fbe");
        h.settle();
        until(() -> p.timeline(h.admin).size(), 1);
        assertThat(p.allThatTheForgerReads()).contains("Price list").doesNotContain("fbunseen", "nowhere.example");
        UUID unseen = h.record("Account fbunseen");
        assertThat(p.forges()
                        .ask("GET", "/api/records/" + unseen + "/timeline", "")
                        .body())
                .doesNotContain("Price list");
        assertThat(p.forges().ask("GET", "/api/triage", "").body()).doesNotContain("hidden@");
        assertThat(h.admin
                        .ask("GET", "/api/decisions?address=bram@fbunseen.example", "")
                        .body())
                .doesNotContain("Price list");
        // who sent it knows
        assertThat(p.reads()
                        .ask("GET", "/api/records/" + unseen + "/timeline", "")
                        .body())
                .contains("Price list");
        assertThat(p.reads()
                        .ask(
                                "GET",
                                "/api/activities/"
                                        + p.timeline(p.reads()).get(0).id(),
                                "")
                        .body())
                .contains("bram@fbunseen.example");
    }
}
