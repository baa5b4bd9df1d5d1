package jandrel.bench;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpsConfigurator;
import com.sun.net.httpserver.HttpsServer;
import jandrel.demo.Stand;
import jandrel.demo.StandTls;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicLong;

/** A calendar server that answers at once: everybody has one calendar, and nothing in it ever changes. */
final class InstantCalendars implements AutoCloseable {
    private static final String OPEN = "<d:multistatus xmlns:d='DAV:' xmlns:c='urn:ietf:params:xml:ns:caldav'>";
    private final ExecutorService answering = Executors.newFixedThreadPool(8);
    private final HttpsServer server;
    private final AtomicLong asked = new AtomicLong();

    InstantCalendars(Stand stand) throws IOException, GeneralSecurityException, InterruptedException {
        server = HttpsServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.setHttpsConfigurator(new HttpsConfigurator(StandTls.context(stand)));
        server.createContext("/", this::answer);
        server.setExecutor(answering);
        server.start();
    }

    int port() {
        return server.getAddress().getPort();
    }

    /** How many requests there were. */
    long asked() {
        return asked.get();
    }

    private void answer(HttpExchange exchange) throws IOException {
        asked.incrementAndGet();
        String ask = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        String props;
        String token = "";
        if (ask.contains("sync-collection") && exchange.getRequestMethod().equals("REPORT")) {
            props = "";
            token = "<d:sync-token>urn:instant:1</d:sync-token>";
        } else if (ask.contains("current-user-principal")) {
            props = response("/me/", "<d:current-user-principal><d:href>/me/</d:href></d:current-user-principal>");
        } else if (ask.contains("calendar-home-set")) {
            props = response("/me/", "<c:calendar-home-set><d:href>/me/</d:href></c:calendar-home-set>");
        } else {
            props = response(
                    "/me/diary/",
                    "<d:resourcetype><d:collection/><c:calendar/></d:resourcetype><d:displayname>diary</d:displayname>"
                            + "<d:supported-report-set><d:supported-report><d:report><d:sync-collection/></d:report>"
                            + "</d:supported-report></d:supported-report-set>");
        }
        byte[] body = (OPEN + props + token + "</d:multistatus>").getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders().set("Content-Type", "application/xml");
        exchange.sendResponseHeaders(207, body.length);
        exchange.getResponseBody().write(body);
        exchange.close();
    }

    private static String response(String href, String props) {
        return "<d:response><d:href>" + href + "</d:href><d:propstat><d:prop>" + props
                + "</d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response>";
    }

    @Override
    public void close() {
        server.stop(0);
        answering.shutdownNow();
    }
}
