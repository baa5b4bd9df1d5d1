package jandrel.acceptance;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsServer;
import jandrel.demo.Stand;
import jandrel.demo.StandTls;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.security.GeneralSecurityException;
import java.util.Set;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicReference;
import javax.net.ssl.SSLContext;
import org.jspecify.annotations.Nullable;

/** Stands between the service and Radicale, and lets something happen just before or just after a change is carried out. */
final class Gate implements AutoCloseable {
    private static final Set<String> OWN =
            Set.of("host", "content-length", "connection", "transfer-encoding", "upgrade");
    private static final Set<String> CHANGES = Set.of("PUT", "DELETE");
    private final HttpsServer server;
    private final HttpClient http;
    private final URI behind;
    private volatile boolean schedules;
    private final AtomicReference<@Nullable Trap> trap = new AtomicReference<>();

    /** @param after whether the change is carried out first */
    private record Trap(boolean after, Runnable happens) {}

    Gate(Stand stand) throws IOException, GeneralSecurityException, InterruptedException {
        behind = URI.create(stand.value("CALDAV"));
        SSLContext context = StandTls.context(stand);
        http = HttpClient.newBuilder()
                .sslContext(context)
                .version(HttpClient.Version.HTTP_1_1)
                .build();
        server = HttpsServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.setHttpsConfigurator(new HttpsConfigurator(context));
        server.createContext("/", this::pass);
        server.setExecutor(Executors.newFixedThreadPool(4));
        server.start();
    }

    int port() {
        return server.getAddress().getPort();
    }

    /** The next change meets this before it reaches the calendar. */
    void before(Runnable happens) {
        trap.set(new Trap(false, happens));
    }

    /** The next change is carried out, then this happens, and its answer is lost. */
    void after(Runnable happens) {
        trap.set(new Trap(true, happens));
    }

    /** From now on it says that it asks guests by itself (RFC 6638 §2), as Radicale does not. */
    void schedules() {
        schedules = true;
    }

    boolean isSprung() {
        return trap.get() == null;
    }

    private void pass(HttpExchange exchange) throws IOException {
        byte[] body = exchange.getRequestBody().readAllBytes();
        Trap set = CHANGES.contains(exchange.getRequestMethod()) ? trap.getAndSet(null) : null;
        if (set != null && !set.after()) {
            set.happens().run();
            exchange.close();
            return;
        }
        try {
            HttpResponse<byte[]> answer = behind(exchange, body);
            if (set != null) {
                set.happens().run();
                exchange.close();
                return;
            }
            for (String name : new String[] {"content-type", "etag", "dav", "location"}) {
                answer.headers()
                        .firstValue(name)
                        .ifPresent(value -> exchange.getResponseHeaders().set(name, value));
            }
            if (schedules) {
                exchange.getResponseHeaders().add("DAV", "calendar-access, calendar-auto-schedule");
            }
            exchange.sendResponseHeaders(answer.statusCode(), answer.body().length == 0 ? -1 : answer.body().length);
            exchange.getResponseBody().write(answer.body());
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
        } finally {
            exchange.close();
        }
    }

    private HttpResponse<byte[]> behind(HttpExchange exchange, byte[] body) throws IOException, InterruptedException {
        HttpRequest.Builder request = HttpRequest.newBuilder(behind.resolve(exchange.getRequestURI()))
                .method(exchange.getRequestMethod(), HttpRequest.BodyPublishers.ofByteArray(body));
        exchange.getRequestHeaders().forEach((name, values) -> {
            if (!OWN.contains(name.toLowerCase(java.util.Locale.ROOT))) {
                values.forEach(value -> request.header(name, value));
            }
        });
        return http.send(request.build(), HttpResponse.BodyHandlers.ofByteArray());
    }

    @Override
    public void close() {
        server.stop(0);
    }
}
