package jandrel.bench;

import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.SplittableRandom;
import java.util.stream.IntStream;

/** Two words among a million messages of two kilobytes; how often a word stands in them follows Zipf's law. */
final class SearchBench {
    private static final int MESSAGES = Integer.getInteger("jandrel.messages", 1_000_000);
    private static final int VOCABULARY = 50_000;
    /** A million in three years. */
    private static final int DAYS = (int) (3L * 365 * MESSAGES / 1_000_000);

    private static final int WARM = 200;
    private static final int ASKED = 600;
    private final Stand stand;

    SearchBench(Stand stand) {
        this.stand = stand;
    }

    void run() throws Exception {
        // filling takes far longer than asking
        boolean kept = Boolean.getBoolean("jandrel.kept");
        Database database = new Database(stand, "bench_search", kept);
        if (kept) {
            // it was another service's, with a key file of its own
            database.run("DELETE FROM installation");
            database.run("DELETE FROM sign_in");
        }
        try (ServiceProcess process = database.service("-Xmx1g", "1d")) {
            Service admin = process.administrator();
            double seconds = kept ? 1 : filled(database);
            long text = database.count("SELECT sum(octet_length(text)) FROM body");
            long index = database.count("SELECT pg_relation_size('body_words')");
            long heads = database.count("SELECT sum(pg_column_size(head)) FROM body");
            Figures.line(
                    "the index of words (bar: half of the text)",
                    "%,d messages: %,d kB of text, %,d kB of index and %,d kB beside it: %.2f of it   %s",
                    MESSAGES,
                    text / 1_000,
                    index / 1_000,
                    heads / 1_000,
                    (double) (index + heads) / text,
                    kept ? "kept" : "made in %.0f s, %.0f a second".formatted(seconds, MESSAGES / seconds));
            HttpClient http = HttpClient.newHttpClient();
            SplittableRandom random = new SplittableRandom(5);
            for (int i = 0; i < WARM; i++) {
                asked(http, process, admin, word(random, 1, VOCABULARY) + "+" + word(random, 1, VOCABULARY));
            }
            say("two words", http, process, admin, random, 1, VOCABULARY);
            say("two words that stand everywhere", http, process, admin, random, 1, 100);
            say("two words that are rare", http, process, admin, random, 5_000, VOCABULARY);
        }
    }

    /** @return how many seconds the index took */
    private static double filled(Database database) throws SQLException {
        fill(database);
        long began = System.nanoTime();
        database.run("SET maintenance_work_mem = '1GB'; " + database.text("SELECT indexdef FROM kept_index"));
        double seconds = (System.nanoTime() - began) / 1e9;
        database.run("VACUUM ANALYZE");
        return seconds;
    }

    private static void say(
            String what,
            HttpClient http,
            ServiceProcess process,
            Service admin,
            SplittableRandom random,
            int from,
            int to)
            throws Exception {
        double[] took = new double[ASKED];
        long found = 0;
        for (int i = 0; i < ASKED; i++) {
            String words = word(random, from, to) + "+" + word(random, from, to);
            long began = System.nanoTime();
            found += asked(http, process, admin, words);
            took[i] = (System.nanoTime() - began) / 1e6;
        }
        Arrays.sort(took);
        Figures.line(
                what + ", the first 50 (bar: p99 < 100 ms)",
                "median %.1f ms, p99 %.1f ms, slowest %.0f ms   (%,d bytes an answer)",
                took[ASKED / 2],
                took[ASKED * 99 / 100],
                took[ASKED - 1],
                found / ASKED);
    }

    private static long asked(HttpClient http, ServiceProcess process, Service admin, String words) throws Exception {
        HttpResponse<byte[]> answer = http.send(
                HttpRequest.newBuilder(URI.create(process.url() + "/api/search?limit=50&words=" + words))
                        .header("Authorization", "Bearer " + admin.token())
                        .build(),
                HttpResponse.BodyHandlers.ofByteArray());
        if (answer.statusCode() != 200) {
            throw new IllegalStateException("answered with " + answer.statusCode());
        }
        return answer.body().length;
    }

    /** The rank of a word, log-uniform: the first stands in most messages, the last in hardly any. */
    private static String word(SplittableRandom random, int from, int to) {
        int rank = (int) (from * Math.exp(random.nextDouble() * Math.log((double) to / from)));
        return named(rank);
    }

    private static String named(int rank) {
        StringBuilder letters = new StringBuilder();
        for (int left = rank; left > 0; left /= 20) {
            letters.append("bcdfghklmnprstvwzaei".charAt(left % 20));
        }
        return letters + (rank % 6 == 0 ? "ing" : rank % 6 == 1 ? "ed" : "a");
    }

    private static void fill(Database database) throws SQLException {
        StringBuilder words = new StringBuilder();
        IntStream.rangeClosed(1, VOCABULARY)
                .forEach(n -> words.append(n > 1 ? "," : "")
                        .append("('")
                        .append(named(n))
                        .append("',")
                        .append(n)
                        .append(')'));
        database.run("CREATE TABLE vocabulary (w text, n int PRIMARY KEY)");
        database.run("INSERT INTO vocabulary VALUES " + words);
        database.run("""
                CREATE TABLE half AS SELECT g AS n, (SELECT string_agg(v.w, ' ')
                    FROM (SELECT exp(random() * ln(%d))::int AS n FROM generate_series(1, 170) WHERE g >= 0) r JOIN vocabulary v USING (n)) AS said
                FROM generate_series(0, 4999) g""".formatted(VOCABULARY));
        database.run("CREATE UNIQUE INDEX ON half (n)");
        database.run(
                "INSERT INTO person (id, key, name, team, role) SELECT md5('p' || n)::uuid, 'p' || n, 'Person ' || n, 'East', 'rep'"
                        + " FROM generate_series(0, 299) n");
        database.run("""
                INSERT INTO activity (id, item, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, version, content, text)
                SELECT md5('a' || n)::uuid, md5('a' || n)::uuid, 'mail', at, NULL, false, 'About item ' || n,
                       'Contact c' || n %% 900 || '@a.example', jsonb_build_object('identity', 'mail:' || n, 'at', to_char(at,
                       'YYYY-MM-DD"T"HH24:MI:SS"Z"'), 'dateFromHeader', true, 'parties',
                       jsonb_build_array(jsonb_build_object('part', 'FROM', 'address', 'c' || n %% 900 || '@a.example', 'name', 'Contact')),
                       'subject', 'About item ' || n, 'nature', jsonb_build_object('kind', 'ORDINARY', 'evidence', ''))::text,
                       NULL, ARRAY[md5('p' || n %% 300)::uuid], ARRAY[]::uuid[], '', md5('b' || n)::uuid, 'here'
                FROM (SELECT n, now() - n * interval '%d days' / %d AS at FROM generate_series(1, %d) n) n""".formatted(DAYS, MESSAGES, MESSAGES));
        // made at once in the end: what is measured is asking, and how large it is
        database.run("CREATE TABLE kept_index AS SELECT indexdef FROM pg_indexes WHERE indexname = 'body_words'");
        database.run("DROP INDEX body_words");
        database.run("""
                INSERT INTO body (item, content, text, html, language, month, at, head, said)
                SELECT a.id, a.content, x.said || '. ' || y.said, '', 'e', search_month(a.at), a.at, search_head(a.subject, a.people),
                    length(x.said) + length(y.said) + 2
                FROM (SELECT *, row_number() OVER (ORDER BY at) AS n FROM activity) a
                    JOIN half x ON x.n = a.n * 7 % 5000 JOIN half y ON y.n = a.n * 131 / 5000 % 5000""");
        database.run("INSERT INTO search_part SELECT DISTINCT month, language FROM body");
        database.run("ANALYZE");
    }
}
