package jandrel.bench;

import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyManager;

/** All of a million activities as NDJSON by HTTP; beside it the columns that go into it by COPY. */
final class ExportBench {
    private static final int ACTIVITIES = 1_000_000;
    private static final int ACCOUNTS = 20_000;
    private static final int RUNS = 3;
    /** To fill the database takes longer than to export it: see {@link MeasureBench}. */
    private static final boolean KEPT = Boolean.getBoolean("jandrel.bench.kept");

    private static final List<String> COLUMNS = List.of(
            "SELECT id, kind, at, ends, all_day, facts, readers, owners, authors, trail FROM activity ORDER BY id",
            "SELECT l.activity, l.kind, l.record, l.evidence, l.blind, coalesce(a.name, c.name) FROM link l"
                    + " LEFT JOIN account a ON l.kind = 'account' AND a.id = l.record LEFT JOIN contact c ON l.kind = 'contact' AND c.id = l.record");
    private final Stand stand;

    ExportBench(Stand stand) {
        this.stand = stand;
    }

    void run() throws Exception {
        Database database = new Database(stand, "bench_export", KEPT);
        try (ServiceProcess process = database.service("-Xmx512m", "1d")) {
            Service admin = process.administrator();
            if (!KEPT) {
                fill(database);
            }
            double[] ratios = new double[RUNS];
            for (int i = 0; i < RUNS; i++) {
                double copied = copied(database);
                long before = System.nanoTime();
                long lines = lines(process.url() + "/api/export/activities.ndjson", admin.token());
                double took = (System.nanoTime() - before) / 1e9;
                if (lines != ACTIVITIES + 2) {
                    throw new IllegalStateException(lines + " lines came");
                }
                ratios[i] = took / copied;
                Figures.line(
                        "1 M activities as NDJSON",
                        "%.1f s; by COPY %.1f s   %.2fx (bar 2x)   resident at most so far %s",
                        took,
                        copied,
                        ratios[i],
                        ImportBench.peak(process));
            }
            Arrays.sort(ratios);
            Figures.line("the median of these", "%.2fx", ratios[RUNS / 2]);
        }
    }

    private static void fill(Database database) throws SQLException {
        database.run(
                "INSERT INTO person (id, key, name) SELECT md5('p' || n)::uuid, 'p' || n, 'Person ' || n FROM generate_series(0, 299) n");
        database.run("INSERT INTO account (id, key, name) SELECT md5('r' || n)::uuid, 'r' || n, 'Account ' || n"
                + " FROM generate_series(0, " + (ACCOUNTS - 1) + ") n");
        database.run(
                "INSERT INTO contact (id, key, name, account) SELECT md5('c' || n)::uuid, 'c' || n, 'Contact ' || n, md5('r' || n)::uuid"
                        + " FROM generate_series(0, " + (ACCOUNTS - 1) + ") n");
        database.run("""
                INSERT INTO activity (id, item, kind, at, all_day, subject, people, facts, readers, owners, insiders, authors, version)
                SELECT md5('a' || n)::uuid, md5('a' || n)::uuid, 'mail', m, false, 'About item ' || n, 'C',
                    json_build_object('identity', 'mail:' || n, 'at', m, 'dateFromHeader', true, 'parties', json_build_array(
                        json_build_object('part', 'FROM', 'address', 'c' || n %% %1$d || '@a.example', 'name', 'Contact ' || n %% %1$d),
                        json_build_object('part', 'TO', 'address', 'p' || n %% 300 || '@corvane.example', 'name', 'Person ' || n %% 300)),
                        'subject', 'About item ' || n, 'nature', json_build_object('kind', 'ORDINARY', 'evidence', ''))::text,
                    CASE WHEN n %% 7 = 0 THEN ARRAY[md5('p' || n %% 300)::uuid] END, ARRAY[md5('p' || n %% 300)::uuid], ARRAY[]::uuid[], '{}', ''
                FROM generate_series(0, %2$d) n, LATERAL (SELECT timestamptz '2024-01-01' + n * interval '59 seconds' AS m) t
                """.formatted(ACCOUNTS, ACTIVITIES - 1));
        database.run("""
                INSERT INTO link SELECT md5(k.letter || n %% %d)::uuid, a.at, a.id, k.kind, 'ADDRESS'
                FROM generate_series(0, %d) n JOIN activity a ON a.id = md5('a' || n)::uuid, (VALUES ('r', 'account'), ('c', 'contact')) k(letter, kind)
                """.formatted(ACCOUNTS, ACTIVITIES - 1));
        database.run("VACUUM ANALYZE");
    }

    private static double copied(Database database) throws SQLException, IOException {
        long began = System.nanoTime();
        try (Connection c = database.open()) {
            CopyManager copy = c.unwrap(PGConnection.class).getCopyAPI();
            for (String columns : COLUMNS) {
                copy.copyOut("COPY (" + columns + ") TO STDOUT", OutputStream.nullOutputStream());
            }
        }
        return (System.nanoTime() - began) / 1e9;
    }

    private static long lines(String url, String token) throws IOException, InterruptedException {
        HttpResponse<InputStream> answer = HttpClient.newHttpClient()
                .send(
                        HttpRequest.newBuilder(URI.create(url))
                                .header("Authorization", "Bearer " + token)
                                .build(),
                        HttpResponse.BodyHandlers.ofInputStream());
        long lines = 0;
        byte[] some = new byte[1 << 16];
        try (InputStream in = answer.body()) {
            for (int n = in.read(some); n >= 0; n = in.read(some)) {
                for (int i = 0; i < n; i++) {
                    lines += some[i] == '\n' ? 1 : 0;
                }
            }
        }
        return lines;
    }
}
