package jandrel.bench;

import jandrel.api.SessionApi.Credentials;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import tools.jackson.databind.json.JsonMapper;

/** A page of a timeline, while ten thousand passwords are guessed over a hundred logins from two hundred addresses, and without. */
final class Guessing {
    private static final int RECORDS = 200;
    private static final int ACTIVITIES = 40_000;
    private static final int READERS = 4;
    private static final int GUESSERS = 16;
    private static final int GUESSES = 10_000;
    private static final int LOGINS = 100;
    private static final int ADDRESSES = 200;
    private static final int WARM_SECONDS = 40;
    private static final int SECONDS = 20;
    private static final String PASSWORD = "buoy-and-tide-26";
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private final Stand stand;

    Guessing(Stand stand) {
        this.stand = stand;
    }

    void run() throws Exception {
        Database database = new Database(stand, "bench_guessing");
        try (ServiceProcess process = database.service("-Xmx512m", "1d")) {
            Service admin = process.administrator();
            for (int i = 0; i < LOGINS; i++) {
                admin.addSignIn("guess" + i, "Guess " + i, PASSWORD, "rep", null);
            }
            database.run("INSERT INTO account (id, key, name) SELECT md5('r' || n)::uuid, 'r' || n, 'Account ' || n"
                    + " FROM generate_series(0, " + (RECORDS - 1) + ") n");
            TimelineReads.grow(database, RECORDS, 0, ACTIVITIES);
            read(process.url(), admin.token(), WARM_SECONDS, new AtomicBoolean());
            double[] alone = read(process.url(), admin.token(), SECONDS, new AtomicBoolean());
            AtomicInteger answered = new AtomicInteger();
            AtomicInteger looked = new AtomicInteger();
            AtomicBoolean over = new AtomicBoolean();
            Thread guessing = new Thread(() -> guess(process.url(), answered, looked, over), "guessing");
            long began = System.nanoTime();
            guessing.start();
            double[] beside = read(process.url(), admin.token(), 600, over);
            guessing.join();
            Figures.line(
                    "timeline page, 4 at once, while passwords are guessed (bar 3x of p99)",
                    "median %.1f ms, p99 %.1f ms, alone %.1f and %.1f: %.2fx",
                    beside[0],
                    beside[1],
                    alone[0],
                    alone[1],
                    beside[1] / alone[1]);
            Figures.line(
                    "guesses",
                    "%,d in %.0f s, %,d of them looked at, the others refused before",
                    answered.get(),
                    (System.nanoTime() - began) / 1e9,
                    looked.get());
        }
    }

    /** @return median and 99th percentile in milliseconds */
    private static double[] read(String url, String token, int seconds, AtomicBoolean over) throws Exception {
        ConcurrentLinkedQueue<Double> took = new ConcurrentLinkedQueue<>();
        ExecutorService threads = Executors.newFixedThreadPool(READERS);
        long ends = System.nanoTime() + seconds * 1_000_000_000L;
        List<Future<?>> all = new ArrayList<>();
        for (int i = 0; i < READERS; i++) {
            HttpClient http = HttpClient.newHttpClient();
            SplittableRandom random = new SplittableRandom(i);
            all.add(threads.submit(() -> {
                while (!over.get() && System.nanoTime() < ends) {
                    String path =
                            "/api/records/" + TimelineReads.md5("r" + random.nextInt(RECORDS)) + "/timeline?limit=50";
                    HttpRequest page = HttpRequest.newBuilder(URI.create(url + path))
                            .header("Authorization", "Bearer " + token)
                            .build();
                    long began = System.nanoTime();
                    if (http.send(page, HttpResponse.BodyHandlers.ofByteArray()).statusCode() != 200) {
                        throw new IllegalStateException("a page is refused");
                    }
                    took.add((System.nanoTime() - began) / 1e6);
                    // people look at what they get
                    Thread.sleep(20);
                }
                return null;
            }));
        }
        for (Future<?> one : all) {
            one.get();
        }
        threads.shutdownNow();
        double[] sorted =
                took.stream().mapToDouble(Double::doubleValue).sorted().toArray();
        return new double[] {sorted[sorted.length / 2], sorted[sorted.length * 99 / 100]};
    }

    private static void guess(String url, AtomicInteger answered, AtomicInteger looked, AtomicBoolean over) {
        ExecutorService threads = Executors.newFixedThreadPool(GUESSERS);
        try {
            List<Future<Integer>> all = new ArrayList<>();
            for (int i = 0; i < GUESSES; i++) {
                int n = i;
                all.add(threads.submit(() -> one(url, n)));
            }
            for (Future<Integer> one : all) {
                int status = one.get();
                answered.incrementAndGet();
                if (status == 401) {
                    looked.incrementAndGet();
                } else if (status != 429) {
                    throw new IllegalStateException("a guess is answered by " + status);
                }
            }
        } catch (InterruptedException | java.util.concurrent.ExecutionException failed) {
            throw new IllegalStateException(failed);
        } finally {
            over.set(true);
            threads.shutdownNow();
        }
    }

    /** From an address of its own: all of 127.0.0.0/8 is this machine. */
    private static int one(String url, int n) throws IOException {
        URI at = URI.create(url);
        byte[] body = JSON.writeValueAsBytes(new Credentials("guess" + n % LOGINS, "wrong password " + n, "", null));
        try (Socket socket = new Socket()) {
            byte[] from = {127, 0, 9, (byte) (n % ADDRESSES + 1)};
            socket.bind(new InetSocketAddress(InetAddress.getByAddress(from), 0));
            socket.connect(new InetSocketAddress(at.getHost(), at.getPort()));
            byte[] head = ("POST /api/tokens HTTP/1.1\r\nHost: " + at.getAuthority()
                            + "\r\nContent-Type: application/json\r\nConnection: close\r\nContent-Length: "
                            + body.length
                            + "\r\n\r\n")
                    .getBytes(StandardCharsets.UTF_8);
            byte[] request = Arrays.copyOf(head, head.length + body.length);
            System.arraycopy(body, 0, request, head.length, body.length);
            socket.getOutputStream().write(request);
            String line = new String(socket.getInputStream().readNBytes(12), StandardCharsets.US_ASCII);
            return Integer.parseInt(line.substring(9));
        }
    }
}
