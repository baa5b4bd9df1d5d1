package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.Service;
import java.io.IOException;
import java.nio.file.Files;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Open pages hear of changes at once, whoever else reads slowly, leaves or signs out. */
@Tag("alone")
class StreamsTest {
    private static final String PASSWORD = "buoy-and-tide-26";
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
        h.admin.addSignIn(login, login, PASSWORD, "rep", null);
        Service service = new Service(h.process.url());
        service.signIn(login, PASSWORD);
        return service;
    }

    private static void say(UUID record) throws Exception {
        h.process.run("SELECT pg_notify((SELECT name FROM news_channel), '" + record + "')");
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
                h.process.run(
                        "SELECT pg_notify((SELECT name FROM news_channel), (SELECT string_agg(gen_random_uuid()::text, ' ')"
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

    /** A page asks for what it shows first and listens afterwards; a busy machine puts seconds between the two. */
    @Test
    void whatChangedBeforeAPageCouldListenIsToldToIt() throws Exception {
        Service late = signedIn("late");
        // as a page does, it asks for two seconds more, through all of which the service must have listened
        Thread.sleep(3_000);
        UUID news = UUID.randomUUID();
        long began = System.nanoTime();
        try (ListeningPage witness = new ListeningPage(h.process.url(), late.token())) {
            say(news);
            Harbour.until(() -> witness.hasHeard(news), true);
        }
        UUID after = UUID.randomUUID();
        String since = "?ago=" + (Duration.ofNanos(System.nanoTime() - began).toMillis() + 2_000);
        try (ListeningPage page = new ListeningPage(h.process.url(), late.token(), since);
                ListeningPage now = new ListeningPage(h.process.url(), late.token())) {
            say(after);
            Harbour.until(() -> page.hasHeard(after) && now.hasHeard(after), true);
            assertThat(page.hasHeard(news)).isTrue();
            assertThat(now.hasHeard(news)).isFalse();
        }
        try (ListeningPage longAgo = new ListeningPage(h.process.url(), late.token(), "?ago=9223372036854775807")) {
            Harbour.until(() -> longAgo.heard().containsAll(List.of("data: *", "event: things")), true);
        }
        assertThat(late.ask("GET", "/api/changes?ago=-1", "").statusCode()).isEqualTo(400);
    }

    @Test
    void whatWasToldWhileNobodyListenedCountsAsEverything() throws Exception {
        Service reader = signedIn("unheard");
        try (ListeningPage page = new ListeningPage(h.process.url(), reader.token())) {
            h.process.run("SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
                    + " WHERE datname = current_database() AND query LIKE 'LISTEN jandrel_%'");
            Harbour.until(() -> page.heard().stream().filter("data: *"::equals).count(), 2L);
            UUID news = UUID.randomUUID();
            say(news);
            Harbour.until(() -> page.hasHeard(news), true);
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
