package jandrel.acceptance;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.Socket;
import java.net.SocketException;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.CopyOnWriteArrayList;

/** A page that listens for news, as the network sees it. */
final class ListeningPage implements AutoCloseable {
    private final Socket socket;
    private final List<String> heard = new CopyOnWriteArrayList<>();
    private volatile boolean ended;

    ListeningPage(String url, String token) throws Exception {
        this(url, token, true);
    }

    ListeningPage(String url, String token, boolean reads) throws Exception {
        this(url, token, reads, "");
    }

    /** @param query begins with a question mark */
    ListeningPage(String url, String token, String query) throws Exception {
        this(url, token, true, query);
    }

    private ListeningPage(String url, String token, boolean reads, String query) throws Exception {
        URI base = URI.create(url);
        socket = new Socket();
        if (!reads) {
            // so that the service has nowhere to put what is not read
            socket.setReceiveBufferSize(1_024);
        }
        socket.connect(new java.net.InetSocketAddress(base.getHost(), base.getPort()));
        socket.getOutputStream()
                .write(("GET /api/changes" + query
                                + " HTTP/1.1\r\nHost: x\r\nConnection: close\r\nAuthorization: Bearer " + token
                                + "\r\n\r\n")
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

    List<String> heard() {
        return heard;
    }

    boolean hasEnded() {
        return ended;
    }

    boolean hasHeard(UUID record) {
        return heard.stream().anyMatch(line -> line.startsWith("data: ") && line.contains(record.toString()));
    }

    @Override
    public void close() throws IOException {
        socket.close();
    }
}
