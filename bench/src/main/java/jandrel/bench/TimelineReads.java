package jandrel.bench;

import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.demo.Stand;
import jandrel.store.kernel.PageCursor;
import jandrel.store.timeline.Timelines;
import jandrel.store.timeline.Timelines.Entry;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import java.util.SplittableRandom;
import java.util.UUID;

/** A page of fifty of a timeline, visibility enforced, among one and two million activities on five thousand records. */
final class TimelineReads {
    private static final int RECORDS = 5_000;
    private static final int READS = 4_000;
    private final Stand stand;

    TimelineReads(Stand stand) {
        this.stand = stand;
    }

    void run() throws SQLException {
        try (Opened store = new Opened(stand, "bench_timeline")) {
            Database database = store.database();
            Timelines timelines = store.bean(Timelines.class);
            grow(database, RECORDS, 0, 1_000_000);
            double[] one = measure(timelines);
            grow(database, RECORDS, 1_000_000, 2_000_000);
            double[] two = measure(timelines);
            Figures.line(
                    "timeline page at 1 M activities",
                    "median %.2f ms, p99 %.2f ms   (bar: p99 < 30 ms)",
                    one[0],
                    one[1]);
            Figures.line(
                    "timeline page at 2 M activities",
                    "median %.2f ms, p99 %.2f ms   %.2fx of 1 M (bar 1.3)",
                    two[0],
                    two[1],
                    two[1] / one[1]);
        }
    }

    /** One in three is for those on it alone; records' shares are uneven, as they are. */
    static void grow(Database database, int records, int from, int to) throws SQLException {
        database.run("""
                INSERT INTO activity (id, item, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, version)
                SELECT md5('a' || n)::uuid, md5('a' || n)::uuid, 'mail', timestamptz '2024-01-01' + n * interval '40 seconds', NULL, false, 'About item ' || n,
                       'Contact', jsonb_build_object('identity', 'mail:' || n, 'at', timestamptz '2024-01-01', 'dateFromHeader', true, 'parties',
                       jsonb_build_array(jsonb_build_object('part', 'FROM', 'address', 'c' || n %% 900 || '@a.example', 'name', 'Contact')),
                       'subject', 'About item ' || n, 'nature', jsonb_build_object('kind', 'ORDINARY', 'evidence', ''))::text,
                       CASE WHEN n %% 3 = 0 THEN ARRAY[md5('p' || n %% 300)::uuid] END, ARRAY[md5('p' || n %% 300)::uuid], ARRAY[]::uuid[], ''
                FROM generate_series(%d, %d) n""".formatted(from, to - 1));
        database.run("""
                INSERT INTO link SELECT md5('r' || floor(%d * power(((n::bigint * 7919) %% 1000003) / 1000003.0, 2))::int)::uuid,
                       timestamptz '2024-01-01' + n * interval '40 seconds', md5('a' || n)::uuid, 'account', 'ADDRESS'
                FROM generate_series(%d, %d) n""".formatted(records, from, to - 1));
        database.run("VACUUM ANALYZE");
    }

    /** @return median and 99th percentile in milliseconds */
    private static double[] measure(Timelines timelines) {
        SplittableRandom random = new SplittableRandom(5);
        double[] millis = new double[READS];
        for (int i = -READS / 2; i < READS; i++) {
            UUID record = md5("r" + random.nextInt(RECORDS));
            Viewer viewer = new Viewer(Role.REP, md5("p" + random.nextInt(300)));
            long began = System.nanoTime();
            List<Entry> page = timelines.page(record, viewer, PageCursor.TOP, 50);
            if (random.nextInt(3) == 0 && !page.isEmpty()) {
                Entry last = page.get(page.size() - 1);
                timelines.page(record, viewer, new PageCursor(last.at(), last.id()), 50);
            }
            if (i >= 0) {
                millis[i] = (System.nanoTime() - began) / 1e6;
            }
        }
        Arrays.sort(millis);
        return new double[] {millis[READS / 2], millis[READS * 99 / 100]};
    }

    /** As PostgreSQL makes a uuid of an md5. */
    static UUID md5(String text) {
        try {
            java.nio.ByteBuffer bytes = java.nio.ByteBuffer.wrap(java.security.MessageDigest.getInstance("MD5")
                    .digest(text.getBytes(java.nio.charset.StandardCharsets.UTF_8)));
            return new UUID(bytes.getLong(), bytes.getLong());
        } catch (java.security.NoSuchAlgorithmException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
