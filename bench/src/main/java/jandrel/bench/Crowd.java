package jandrel.bench;

import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;

/** Fifty people turn pages of decisions among a million, each asking again as soon as they are answered; a hundred pages listen. */
final class Crowd {
    private static final int SIGHTINGS = 1_000_000;
    private static final int PEOPLE = 300;
    private static final int CLIENTS = 50;
    private static final int LISTENERS = 100;
    private static final int OF_ONE = 20;
    private static final String PASSWORD = "buoy-and-tide-26";
    private static final int WARM_SECONDS = 10;
    /** A service just started is busy with compiling itself. */
    private static final int FIRST_SECONDS = 60;

    private static final int SECONDS = 20;
    /** As many as the service asks the database by. */
    private static final int CONNECTIONS = 20;

    private static final String PAGE = """
            SELECT id, item, kind, at, person, verdict, rule, trail, sharing, facts FROM sighting
            WHERE (at, id) < (?, ?) ORDER BY at DESC, id DESC LIMIT 50
            """;
    private final Stand stand;

    Crowd(Stand stand) {
        this.stand = stand;
    }

    void run() throws Exception {
        Database database = new Database(stand, "bench_crowd");
        try (ServiceProcess process = database.service("-Xmx1g", "1d")) {
            Service admin = process.administrator();
            fill(database);
            double[] bare = bare(database);
            Figures.line(
                    "floor: the same page by its index, 50 at once", "median %.1f ms, p99 %.1f ms", bare[0], bare[1]);
            List<Stream> streams = listening(process, admin);
            AtomicBoolean over = new AtomicBoolean();
            ConcurrentLinkedQueue<Double> heard = new ConcurrentLinkedQueue<>();
            Thread news = new Thread(() -> tell(database, streams, heard, over), "news");
            news.start();
            crowd(() -> asker(process.url(), admin.token(), ""), FIRST_SECONDS, 1);
            double[] pages = crowd(() -> asker(process.url(), admin.token(), ""));
            double[] narrowed = crowd(() -> asker(process.url(), admin.token(), "&verdict=left-out&rule=bulk"));
            over.set(true);
            news.join();
            Figures.line(
                    "decisions, 50 at once, at 1 M (bar: p99 < 300 ms, 3x)",
                    "median %.1f ms, p99 %.1f ms   %.2fx of the floor’s p99",
                    pages[0],
                    pages[1],
                    pages[1] / bare[1]);
            Figures.line(
                    "those that one rule left out, 50 at once",
                    "median %.1f ms, p99 %.1f ms",
                    narrowed[0],
                    narrowed[1]);
            double[] late =
                    heard.stream().mapToDouble(Double::doubleValue).sorted().toArray();
            Figures.line(
                    "news at 100 listening pages meanwhile (bar: 1 s)",
                    "median %.0f ms, slowest %.0f ms   (%,d heard)",
                    late[late.length / 2],
                    late[late.length - 1],
                    late.length);
        }
    }

    /** A million decisions of three hundred people. */
    static void fill(Database database) throws SQLException {
        database.run(
                "INSERT INTO person (id, key, name, team, role) SELECT md5('p' || n)::uuid, 'p' || n, 'Person ' || n, 'East', 'rep'"
                        + " FROM generate_series(0, " + (PEOPLE - 1) + ") n");
        database.run(
                "INSERT INTO server (id, name, kind, host, port) VALUES (md5('s')::uuid, 'mail', 'imap', '127.0.0.1', 1)");
        database.run("INSERT INTO connection (id, person, server, account, connected_at, since, state)"
                + " SELECT md5('c' || n)::uuid, md5('p' || n)::uuid, md5('s')::uuid, 'p' || n, now(), '2024-01-01', 'paused'"
                + " FROM generate_series(0, " + (PEOPLE - 1) + ") n");
        database.run(
                "INSERT INTO source (connection, kind, name, label) SELECT id, 'folder', 'INBOX', 'inbox' FROM connection");
        database.run("""
                INSERT INTO sighting (id, source, person, position, item, kind, at, verdict, rule, trail, links, sharing, insiders, facts, keys)
                SELECT md5('x' || n)::uuid, s.id, c.person, '1/' || n, md5('i' || n)::uuid, 'mail',
                       timestamptz '2024-01-01' + n * interval '40 seconds',
                       CASE WHEN n %% 4 = 0 THEN 'left-out' ELSE 'waiting' END,
                       CASE WHEN n %% 40 = 0 THEN 'BULK' WHEN n %% 4 = 0 THEN 'INSIDE_ONLY' ELSE 'NOBODY_MATCHED' END,
                       CASE WHEN n %% 40 = 0 THEN '[{"rule":"BULK","facts":{"header":"Precedence: bulk"}}]'
                            WHEN n %% 4 = 0 THEN '[{"rule":"INSIDE_ONLY","facts":{}}]'
                            ELSE '[{"rule":"NOBODY_MATCHED","facts":{}}]' END,
                       NULL, 'EVERYONE', ARRAY[c.person],
                       CASE WHEN n %% 4 > 0 THEN jsonb_build_object('identity', 'mail:' || n, 'at', timestamptz '2024-01-01', 'dateFromHeader',
                           true, 'parties', jsonb_build_array(jsonb_build_object('part', 'FROM', 'address', 'c' || n %% 900 || '@a.example',
                           'name', 'Contact')), 'subject', 'About item ' || n, 'nature', jsonb_build_object('kind', 'ORDINARY', 'evidence', ''))::text END,
                       CASE WHEN n %% 4 > 0 THEN ARRAY['c' || n %% 900 || '@a.example', '@a.example'] END
                FROM generate_series(1, %d) n JOIN connection c ON c.id = md5('c' || n %% %d)::uuid JOIN source s ON s.connection = c.id
                """.formatted(SIGHTINGS, PEOPLE));
        database.run("VACUUM ANALYZE");
    }

    /** One page from anywhere, by the index alone. */
    private double[] bare(Database database) throws Exception {
        List<Connection> open = new ArrayList<>();
        java.util.concurrent.ArrayBlockingQueue<Connection> pool =
                new java.util.concurrent.ArrayBlockingQueue<>(CONNECTIONS);
        for (int i = 0; i < CONNECTIONS; i++) {
            Connection connection = database.open();
            open.add(connection);
            pool.add(connection);
        }
        try {
            return crowd(() -> {
                SplittableRandom random = new SplittableRandom();
                return () -> {
                    Connection connection = pool.take();
                    try (PreparedStatement page = connection.prepareStatement(PAGE)) {
                        page.setTimestamp(1, new java.sql.Timestamp(at(random).toEpochMilli()));
                        page.setObject(2, new UUID(-1, -1));
                        long bytes = 0;
                        try (var rows = page.executeQuery()) {
                            while (rows.next()) {
                                bytes += rows.getString(8).length();
                            }
                        }
                        return bytes;
                    } finally {
                        pool.add(connection);
                    }
                };
            });
        } finally {
            for (Connection connection : open) {
                connection.close();
            }
        }
    }

    private static java.time.Instant at(SplittableRandom random) {
        return java.time.Instant.parse("2024-01-01T00:00:00Z").plusSeconds(40L * random.nextInt(1_000, SIGHTINGS));
    }

    private static Callable<Long> asker(String url, String token, String narrowed) {
        HttpClient http = HttpClient.newHttpClient();
        SplittableRandom random = new SplittableRandom();
        return () -> {
            HttpRequest request = HttpRequest.newBuilder(
                            URI.create(url + "/api/decisions?limit=50&until=" + at(random) + narrowed))
                    .header("Authorization", "Bearer " + token)
                    .build();
            HttpResponse<byte[]> answer = http.send(request, HttpResponse.BodyHandlers.ofByteArray());
            if (answer.statusCode() != 200) {
                throw new IllegalStateException("status " + answer.statusCode());
            }
            return (long) answer.body().length;
        };
    }

    /** @return median and 99th percentile in milliseconds */
    private static double[] crowd(Callable<Callable<Long>> each) throws Exception {
        return crowd(each, WARM_SECONDS, SECONDS);
    }

    private static double[] crowd(Callable<Callable<Long>> each, int warm, int seconds) throws Exception {
        ExecutorService threads = Executors.newFixedThreadPool(CLIENTS);
        ConcurrentLinkedQueue<Double> took = new ConcurrentLinkedQueue<>();
        long counts = System.nanoTime() + warm * 1_000_000_000L;
        long ends = counts + seconds * 1_000_000_000L;
        try {
            List<Future<?>> all = new ArrayList<>();
            for (int i = 0; i < CLIENTS; i++) {
                Callable<Long> ask = each.call();
                all.add(threads.submit(() -> {
                    for (long began = System.nanoTime(); began < ends; began = System.nanoTime()) {
                        ask.call();
                        if (began > counts) {
                            took.add((System.nanoTime() - began) / 1e6);
                        }
                    }
                    return null;
                }));
            }
            for (Future<?> one : all) {
                one.get();
            }
        } finally {
            threads.shutdownNow();
        }
        double[] sorted = took.stream().mapToDouble(Double::doubleValue).toArray();
        Arrays.sort(sorted);
        return new double[] {sorted[sorted.length / 2], sorted[sorted.length * 99 / 100]};
    }

    /** One page that listens. */
    private static final class Stream {
        private final java.util.concurrent.ConcurrentHashMap<String, Long> heardAt =
                new java.util.concurrent.ConcurrentHashMap<>();
    }

    private static List<Stream> listening(ServiceProcess process, Service admin) throws Exception {
        List<Stream> streams = new ArrayList<>();
        AtomicInteger open = new AtomicInteger();
        String token = "";
        for (int i = 0; i < LISTENERS; i++) {
            if (i % OF_ONE == 0) {
                String login = "listens" + i;
                admin.addSignIn(login, login, PASSWORD, "manager", null);
                token = process.signedIn(login, PASSWORD).token();
            }
            String theirs = token;
            Stream stream = new Stream();
            streams.add(stream);
            Thread reader = new Thread(() -> listen(process.url(), theirs, stream, open), "listens");
            reader.setDaemon(true);
            reader.start();
        }
        while (open.get() < LISTENERS) {
            Thread.sleep(50);
        }
        return streams;
    }

    private static void listen(String url, String token, Stream stream, AtomicInteger open) {
        try {
            var connection = URI.create(url + "/api/changes").toURL().openConnection();
            connection.setRequestProperty("Authorization", "Bearer " + token);
            try (BufferedReader in =
                    new BufferedReader(new InputStreamReader(connection.getInputStream(), StandardCharsets.UTF_8))) {
                for (String line = in.readLine(); line != null; line = in.readLine()) {
                    if (line.startsWith("retry")) {
                        open.incrementAndGet();
                    } else if (line.startsWith("data: ")) {
                        for (String record : line.substring(6).split(" ", 0)) {
                            stream.heardAt.put(record, System.nanoTime());
                        }
                    }
                }
            }
        } catch (java.io.IOException ended) {
            throw new java.io.UncheckedIOException(ended);
        }
    }

    /** News twice a second; each is waited for at every page before the next. */
    private static void tell(
            Database database, List<Stream> streams, ConcurrentLinkedQueue<Double> heard, AtomicBoolean over) {
        try {
            while (!over.get()) {
                String record = UUID.randomUUID().toString();
                long began = System.nanoTime();
                database.text("SELECT pg_notify((SELECT name FROM news_channel), '" + record + "')::text");
                Thread.sleep(500);
                for (Stream stream : streams) {
                    Long at = stream.heardAt.get(record);
                    for (int i = 0; at == null && i < 500; i++) {
                        Thread.sleep(10);
                        at = stream.heardAt.get(record);
                    }
                    heard.add(at == null ? 99_999.0 : (at - began) / 1e6);
                }
            }
        } catch (SQLException | InterruptedException failed) {
            throw new IllegalStateException(failed);
        }
    }
}
