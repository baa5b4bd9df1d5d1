package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.Sessions.NewSignIn;
import jandrel.demo.Service;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.Socket;
import java.net.SocketException;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;
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

    /** A page, as the network sees it. */
    private static final class Page implements AutoCloseable {
        private final Socket socket;
        private final List<String> heard = new CopyOnWriteArrayList<>();
        private volatile boolean ended;

        Page(Service as, boolean reads) throws Exception {
            URI base = URI.create(h.process.url());
            socket = new Socket();
            if (!reads) {
                // so that the service has nowhere to put what is not read
                socket.setReceiveBufferSize(1_024);
            }
            socket.connect(new java.net.InetSocketAddress(base.getHost(), base.getPort()));
            socket.getOutputStream()
                    .write(("GET /api/changes HTTP/1.1\r\nHost: x\r\nConnection: close\r\nAuthorization: Bearer "
                                    + as.token() + "\r\n\r\n")
                            .getBytes(StandardCharsets.US_ASCII));
            if (reads) {
                Thread thread = new Thread(this::read, "page");
                thread.setDaemon(true);
                thread.start();
                Harbour.until(() -> heard.stream().anyMatch(line -> line.startsWith("retry")), true);
            }
        }

        private void read() {
            try (BufferedReader in =
                    new BufferedReader(new InputStreamReader(socket.getInputStream(), StandardCharsets.UTF_8))) {
                for (String line = in.readLine(); line != null; line = in.readLine()) {
                    heard.add(line);
                }
            } catch (SocketException | SocketTimeoutException gone) {
                // ended as well
            } catch (IOException e) {
                throw new IllegalStateException(e);
            } finally {
                ended = true;
            }
        }

        boolean hasHeard(UUID record) {
            return heard.stream().anyMatch(line -> line.startsWith("data: ") && line.contains(record.toString()));
        }

        @Override
        public void close() throws IOException {
            socket.close();
        }
    }

    private static Service signedIn(String login) throws Exception {
        h.admin.post("/api/sign-ins", new NewSignIn(login, login, PASSWORD, "rep", null), Object.class);
        Service service = new Service(h.process.url());
        service.signIn(login, PASSWORD);
        return service;
    }

    private static void say(UUID... records) throws Exception {
        StringBuilder words = new StringBuilder();
        for (UUID record : records) {
            words.append(words.isEmpty() ? "" : " ").append(record);
        }
        h.process.run("SELECT pg_notify('jandrel_timelines', '" + words + "')");
    }

    @Test
    void whoeverReadsSlowlyKeepsNobodyWaiting() throws Exception {
        Service slow = signedIn("slow");
        Service quick = signedIn("quick");
        List<Page> asleep = new ArrayList<>();
        try (Page page = new Page(quick, true)) {
            for (int i = 0; i < 10; i++) {
                asleep.add(new Page(slow, false));
            }
            UUID[] many = new UUID[60];
            for (int i = 0; i < 60; i++) {
                many[i] = UUID.randomUUID();
            }
            // some megabytes for each that is asleep: more than anything between can hold
            for (int i = 0; i < 2_000; i++) {
                say(many);
            }
            UUID last = UUID.randomUUID();
            say(last);
            org.awaitility.Awaitility.await()
                    .atMost(Duration.ofSeconds(5))
                    .until(() -> page.hasHeard(last) || page.heard.contains("data: *"));
            long began = System.nanoTime();
            UUID next = UUID.randomUUID();
            say(next);
            org.awaitility.Awaitility.await().atMost(Duration.ofSeconds(3)).until(() -> page.hasHeard(next));
            assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(Duration.ofSeconds(3));
        } finally {
            for (Page page : asleep) {
                page.close();
            }
        }
        assertThat(errors()).isEmpty();
    }

    @Test
    void aPageEndsWithItsSession() throws Exception {
        Service leaving = signedIn("leaving");
        Service staying = signedIn("staying");
        try (Page left = new Page(leaving, true);
                Page stays = new Page(staying, true)) {
            leaving.delete("/api/tokens/current");
            UUID news = UUID.randomUUID();
            say(news);
            Harbour.until(() -> stays.hasHeard(news), true);
            Harbour.until(() -> left.ended, true);
            assertThat(left.hasHeard(news)).isFalse();
        }
        assertThat(errors()).isEmpty();
    }

    @Test
    void whoeverOpensEverMorePagesLosesTheOldest() throws Exception {
        Service eager = signedIn("eager");
        List<Page> pages = new ArrayList<>();
        try {
            for (int i = 0; i < 21; i++) {
                pages.add(new Page(eager, true));
            }
            Harbour.until(() -> pages.get(0).ended, true);
            UUID news = UUID.randomUUID();
            say(news);
            Harbour.until(() -> pages.stream().filter(p -> p.hasHeard(news)).count(), 20L);
        } finally {
            for (Page page : pages) {
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
