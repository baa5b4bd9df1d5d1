package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.SessionApi.NewSignIn;
import jandrel.demo.Service;
import java.io.IOException;
import java.nio.file.Files;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Open pages hear of changes at once, whoever else reads slowly, leaves or signs out. */
class StreamsTest {
    private static final String PASSWORD = "ten characters";
    private static Harbour h;

    @BeforeAll
    static void open() {
        h = Harbour.open("acceptance_streams");
    }

    @AfterAll
    static void close() throws Exception {
        h.close();
    }

    private static Service signedIn(String login) throws Exception {
        h.admin.post("/api/sign-ins", new NewSignIn(login, login, PASSWORD, "rep", null), Object.class);
        Service service = new Service(h.process.url());
        service.signIn(login, PASSWORD);
        return service;
    }

    private static void say(UUID record) throws Exception {
        h.process.run("SELECT pg_notify('jandrel_timelines', '" + record + "')");
    }

    @Test
    void whoeverReadsSlowlyKeepsNobodyWaiting() throws Exception {
        Service slow = signedIn("slow");
        Service quick = signedIn("quick");
        List<ListeningPage> asleep = new ArrayList<>();
        try (ListeningPage page = new ListeningPage(h.process.url(), quick.token())) {
            for (int i = 0; i < 10; i++) {
                asleep.add(new ListeningPage(h.process.url(), slow.token(), false));
            }
            // some megabytes for each that is asleep: more than anything between can hold
            for (int i = 0; i < 100; i++) {
                h.process.run("SELECT pg_notify('jandrel_timelines', (SELECT string_agg(gen_random_uuid()::text, ' ')"
                        + " FROM generate_series(n, n + 59))) FROM generate_series(1, 20) n");
            }
            UUID last = UUID.randomUUID();
            say(last);
            org.awaitility.Awaitility.await()
                    .atMost(Duration.ofSeconds(5))
                    .until(() -> page.hasHeard(last) || page.heard().contains("data: *"));
            long began = System.nanoTime();
            UUID next = UUID.randomUUID();
            say(next);
            org.awaitility.Awaitility.await().atMost(Duration.ofSeconds(3)).until(() -> page.hasHeard(next));
            assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(Duration.ofSeconds(3));
        } finally {
            for (ListeningPage page : asleep) {
                page.close();
            }
        }
        assertThat(errors()).isEmpty();
    }

    @Test
    void aPageHearsWhichKindsOfThingsChanged() throws Exception {
        Service reader = signedIn("reader");
        try (ListeningPage page = new ListeningPage(h.process.url(), reader.token())) {
            h.admin.post(
                    "/api/exclusions",
                    java.util.Map.of("text", "things.example", "reason", "a secret reason"),
                    Object.class);
            Harbour.until(
                    () -> page.heard().contains("event: things") && page.heard().contains("data: exclusion"), true);
            assertThat(page.heard()).noneMatch(line -> line.contains("things.example") || line.contains("secret"));
        }
    }

    @Test
    void aPageEndsWithItsSession() throws Exception {
        Service leaving = signedIn("leaving");
        Service staying = signedIn("staying");
        try (ListeningPage left = new ListeningPage(h.process.url(), leaving.token());
                ListeningPage stays = new ListeningPage(h.process.url(), staying.token())) {
            leaving.delete("/api/tokens/current");
            UUID news = UUID.randomUUID();
            say(news);
            Harbour.until(() -> stays.hasHeard(news), true);
            Harbour.until(() -> left.hasEnded(), true);
            assertThat(left.hasHeard(news)).isFalse();
        }
        assertThat(errors()).isEmpty();
    }

    @Test
    void whoeverOpensEverMorePagesLosesTheOldest() throws Exception {
        Service eager = signedIn("eager");
        List<ListeningPage> pages = new ArrayList<>();
        try {
            for (int i = 0; i < 21; i++) {
                pages.add(new ListeningPage(h.process.url(), eager.token()));
            }
            Harbour.until(() -> pages.get(0).hasEnded(), true);
            UUID news = UUID.randomUUID();
            say(news);
            Harbour.until(() -> pages.stream().filter(p -> p.hasHeard(news)).count(), 20L);
        } finally {
            for (ListeningPage page : pages) {
                page.close();
            }
        }
        assertThat(errors()).isEmpty();
    }

    /** What the service complains of. */
    private static List<String> errors() throws IOException {
        return Files.readAllLines(h.process.log()).stream()
                .filter(line -> line.contains(" ERROR "))
                .toList();
    }
}
