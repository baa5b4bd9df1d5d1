package jandrel.store.measures;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Random;
import java.util.UUID;
import org.springframework.jdbc.core.JdbcTemplate;

/** Mail and meetings with three accounts that come, change and go; some with copies that say different things. */
final class RandomTouches {
    static final List<UUID> PEOPLE = List.of(new UUID(2, 1), new UUID(2, 2), new UUID(2, 3));
    static final List<UUID> ACCOUNTS = List.of(new UUID(1, 1), new UUID(1, 2), new UUID(1, 3));

    private RandomTouches() {}

    static void accounts(JdbcTemplate jdbc) {
        ACCOUNTS.forEach(a -> jdbc.update("INSERT INTO account (id, key, name) VALUES (?, ?, 'A')", a, a.toString()));
    }

    static void change(JdbcTemplate jdbc, Random random, Instant now) {
        UUID item = new UUID(9, random.nextInt(12));
        jdbc.update("DELETE FROM link WHERE activity = ?", item);
        jdbc.update("DELETE FROM activity WHERE item = ?", item);
        if (random.nextInt(4) == 0) {
            return;
        }
        boolean meeting = random.nextInt(3) == 0;
        Instant at = now.plus(random.nextInt(-20_000, meeting ? 3_000 : 2), ChronoUnit.MINUTES);
        int faces = random.nextInt(5) == 0 ? 2 : 1;
        for (int face = 0; face < faces; face++) {
            jdbc.update(
                    "INSERT INTO activity (id, item, face, faces, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, authors,"
                            + " mine, elsewhere, rivals, version, trail) VALUES (?, ?, ?, ?, ?, ?::timestamptz, ?::timestamptz, false, 'M', '', ?,"
                            + " ?::text::uuid[], '{}', '{}', ?::text::uuid[], ?::text::uuid[], ?::text::uuid[], ?::text::uuid[], 'v', '[]')",
                    item,
                    item,
                    face,
                    faces,
                    meeting ? "meeting" : "mail",
                    at.toString(),
                    at.toString(),
                    "{\"state\":\"" + (random.nextInt(4) == 0 ? "CANCELLED" : "PLANNED") + "\"}",
                    random.nextInt(3) == 0 ? some(random) : null,
                    random.nextBoolean() ? "{}" : some(random),
                    some(random),
                    faces == 1 ? "{}" : some(random),
                    random.nextBoolean() ? "{}" : some(random));
        }
        for (UUID account : ACCOUNTS) {
            if (random.nextInt(2) == 0) {
                jdbc.update(
                        "INSERT INTO link (record, at, activity, kind, evidence, blind) VALUES (?, ?::timestamptz, ?, 'account', 'ADDRESS', ?)",
                        account,
                        at.toString(),
                        item,
                        random.nextInt(6) == 0);
            }
        }
    }

    private static String some(Random random) {
        return "{" + PEOPLE.get(random.nextInt(3)) + "}";
    }
}
