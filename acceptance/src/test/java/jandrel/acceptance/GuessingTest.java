package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.Token;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.awaitility.Awaitility;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Ten thousand guesses over a hundred logins, from two hundred addresses at once. */
@Tag("alone")
class GuessingTest {
    private static final int GUESSES = 10_000;
    private static final int LOGINS = 100;
    private static final int ADDRESSES = 200;
    private static final String PASSWORD = Providers.PASSWORD;

    @Test
    void nobodyGetsInAndNobodyIsShutOutWhoKnowsTheirPassword() throws Exception {
        Map<String, String> settings = Map.of("JANDREL_PUBLIC_URL", "https://jandrel.corvane.example");
        try (Harbour h = Harbour.open("guessing", settings)) {
            for (int i = 0; i < LOGINS; i++) {
                h.admin.addSignIn("guess" + i, "Guess " + i, PASSWORD, "rep", null);
            }
            Service nobody = new Service(h.process.url());
            Token device = nobody.post("/api/tokens", new Credentials("guess7", PASSWORD, "", null), Token.class);
            Map<Integer, Integer> answers = new ConcurrentHashMap<>();
            ExecutorService threads = Executors.newFixedThreadPool(16);
            List<Callable<Void>> guesses = new ArrayList<>();
            for (int i = 0; i < GUESSES; i++) {
                int n = i;
                guesses.add(() -> {
                    answers.merge(guess(h.process.url(), n), 1, Integer::sum);
                    return null;
                });
            }
            List<Future<Void>> under = new ArrayList<>();
            guesses.forEach(g -> under.add(threads.submit(g)));
            // in the middle of it
            while (under.stream().filter(Future::isDone).count() < GUESSES / 4) {
                Thread.sleep(20);
            }
            int mine = nobody.ask(
                            "POST",
                            "/api/tokens",
                            Client.json(new Credentials("guess7", PASSWORD, "", device.device())))
                    .statusCode();
            assertThat(mine).as("from where they have signed in before").isEqualTo(200);
            HttpResponse<String> records = h.admin.ask("GET", "/api/records", "");
            assertThat(records.statusCode())
                    .as("who is signed in notices nothing")
                    .isEqualTo(200);
            assertThat(records.headers().firstValue("strict-transport-security"))
                    .as("where people come by https")
                    .contains("max-age=31536000");
            for (Future<Void> one : under) {
                one.get();
            }
            threads.shutdown();
            assertThat(answers.keySet()).isSubsetOf(401, 429);
            assertThat(answers.getOrDefault(401, 0))
                    .as("how many passwords were looked at: five a login, and one more for each time it opens again")
                    .isLessThan(LOGINS * 12);
            Awaitility.await()
                    .atMost(Duration.ofMinutes(1))
                    .pollInterval(Duration.ofSeconds(1))
                    .until(() -> nobody.ask(
                                            "POST",
                                            "/api/tokens",
                                            Client.json(new Credentials("guess42", PASSWORD, "", null)))
                                    .statusCode()
                            == 200);
        }
    }

    /** From an address of its own: all of 127.0.0.0/8 is this machine. */
    private static int guess(String url, int n) throws IOException {
        URI at = URI.create(url);
        String body = Client.json(new Credentials("guess" + n % LOGINS, "wrong password " + n, "", null));
        try (Socket socket = new Socket()) {
            socket.bind(new InetSocketAddress(
                    InetAddress.getByAddress(new byte[] {127, 0, 9, (byte) (n % ADDRESSES + 1)}), 0));
            socket.connect(new InetSocketAddress(at.getHost(), at.getPort()));
            socket.getOutputStream()
                    .write(("POST /api/tokens HTTP/1.1\r\nHost: " + at.getAuthority()
                                    + "\r\nContent-Type: application/json\r\nConnection: close\r\nContent-Length: "
                                    + body.length() + "\r\n\r\n" + body)
                            .getBytes(StandardCharsets.UTF_8));
            InputStream answer = socket.getInputStream();
            String line = new String(answer.readNBytes(12), StandardCharsets.US_ASCII);
            return Integer.parseInt(line.substring(9));
        }
    }
}
