package jandrel.store.measures;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import org.springframework.jdbc.core.JdbcTemplate;

/** A company's meetings, mail and opportunities of half a year, as chance has it; read by everybody, but for some. */
final class RandomSelling {
    private final JdbcTemplate jdbc;
    private final Random random;
    private final Instant now;

    RandomSelling(JdbcTemplate jdbc, Random random, Instant now) {
        this.jdbc = jdbc;
        this.random = random;
        this.now = now;
    }

    private Instant some(int from, int until) {
        return now.plus(random.nextInt(from, until) * 1440L + random.nextInt(1440), ChronoUnit.MINUTES)
                .plusMillis(random.nextInt(60_000));
    }

    /** In place of all that is there. */
    void fill() {
        for (String table :
                List.of("activity", "link", "meeting_outcome", "stage", "opportunity", "account", "person")) {
            jdbc.update("DELETE FROM " + table);
        }
        jdbc.execute("TRUNCATE person_team");
        List<UUID> people = new ArrayList<>();
        for (int i = 0; i < 3; i++) {
            UUID id = new UUID(random.nextLong(), random.nextLong());
            people.add(id);
            jdbc.update(
                    "INSERT INTO person (id, key, name, team) VALUES (?, ?, 'P', ?)",
                    id,
                    "p" + i,
                    i == 0 ? "Baltic" : "Atlantic");
        }
        // what their coming here wrote down is not of the story
        jdbc.execute("TRUNCATE person_team");
        for (UUID id : people) {
            for (int n = 0; n < 1 + random.nextInt(3); n++) {
                jdbc.update(
                        "INSERT INTO person_team (person, at, team) VALUES (?, ?::timestamptz, ?)",
                        id,
                        some(-300, 0).toString(),
                        random.nextBoolean() ? "Atlantic" : "Baltic");
            }
        }
        for (int i = 0; i < 3; i++) {
            jdbc.update("INSERT INTO stage VALUES (?, ?, ?)", i, "s" + i, i == 2 ? "agreed" : "open");
        }
        List<UUID> accounts = new ArrayList<>();
        List<UUID> deals = new ArrayList<>();
        for (int i = 0; i < 5; i++) {
            UUID account = new UUID(random.nextLong(), random.nextLong());
            accounts.add(account);
            jdbc.update(
                    "INSERT INTO account (id, key, name, owner) VALUES (?, ?, 'A', ?)",
                    account,
                    "a" + i,
                    people.get(random.nextInt(3)));
            for (int d = 0; d < random.nextInt(4); d++) {
                UUID deal = new UUID(random.nextLong(), random.nextLong());
                deals.add(deal);
                jdbc.update(
                        "INSERT INTO opportunity (id, key, name, account, state) VALUES (?, ?, 'O', ?, 'OPEN')",
                        deal,
                        "o" + i + d,
                        account);
            }
        }
        // what their coming here wrote down is not of the story
        jdbc.execute("TRUNCATE opportunity_history");
        deals.forEach(deal -> history(deal, people));
        for (int i = 0; i < 25; i++) {
            meeting(accounts, deals, people);
        }
        // of one account nothing but mail is known, and of one nothing at all
        for (int i = 0; i < 3; i++) {
            UUID account = new UUID(random.nextLong(), random.nextLong());
            jdbc.update("INSERT INTO account (id, key, name) VALUES (?, ?, 'A')", account, "quiet" + i);
            for (int n = 0; n < 4 * i; n++) {
                mail(account);
            }
        }
        accounts.forEach(account -> mail(account));
        // and two that people write back and forth with
        for (int n = 0; n < 20; n++) {
            mail(accounts.get(random.nextInt(2)));
        }
    }

    private void history(UUID deal, List<UUID> people) {
        for (int n = 0; n < 1 + random.nextInt(5); n++) {
            String state = n == 0
                    ? "OPEN"
                    : List.of("OPEN", "OPEN", "WON", "WON", "LOST").get(random.nextInt(5));
            jdbc.update(
                    "INSERT INTO opportunity_history (opportunity, at, by_name, origin, stage, state, value, currency, period, owner, account,"
                            + " channel) SELECT id, ?::timestamptz, 'x', 'file', ?, ?, ?, 'EUR', ?, ?, account, ? FROM opportunity WHERE id = ?",
                    some(-250 + 40 * n, -210 + 40 * n).toString(),
                    "s" + random.nextInt(4),
                    state,
                    random.nextInt(1, 100),
                    random.nextInt(3) > 0 ? "once" : "month",
                    random.nextInt(5) == 0 ? null : people.get(random.nextInt(3)),
                    random.nextBoolean() ? "fair" : "",
                    deal);
        }
    }

    private void meeting(List<UUID> accounts, List<UUID> deals, List<UUID> people) {
        UUID id = new UUID(random.nextLong(), random.nextLong());
        Instant at = some(-250, 20);
        String mark = random.nextInt(5) == 0 ? (random.nextBoolean() ? "MISSED_BY_WORD" : "DECLINED_BY_ALL") : "";
        String facts = "{\"state\":\"" + (random.nextInt(8) == 0 ? "CANCELLED" : "PLANNED") + "\",\"sort\":\""
                + (random.nextInt(8) == 0 ? "FOLLOW_UP" : "CALL") + "\"}";
        jdbc.update(
                "INSERT INTO activity (id, item, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, version, trail)"
                        + " VALUES (?, ?, 'meeting', ?::timestamptz, ?::timestamptz, false, 'M', '', ?, ?::text::uuid[], ARRAY[?], '{}', 'v', ?)",
                id,
                id,
                at.toString(),
                at.plusSeconds(3_600).toString(),
                facts,
                random.nextInt(9) == 0 ? "{" + (random.nextBoolean() ? UUID.randomUUID() : people.get(0)) + "}" : null,
                people.get(random.nextInt(3)),
                mark.isEmpty() ? "[]" : "[{\"rule\":\"" + mark + "\",\"facts\":{}}]");
        Set<UUID> linked = new HashSet<>(List.of(accounts.get(random.nextInt(5))));
        if (random.nextInt(5) == 0) {
            linked.add(accounts.get(random.nextInt(5)));
        }
        linked.forEach(account -> link(account, at, id, "ACCOUNT"));
        if (!deals.isEmpty() && random.nextInt(3) == 0) {
            link(deals.get(random.nextInt(deals.size())), at, id, "OPPORTUNITY");
        }
        if (random.nextInt(8) == 0) {
            jdbc.update(
                    "INSERT INTO meeting_outcome (item, owners, state, by_name) VALUES (?, '{}', ?, 'x')",
                    id,
                    random.nextBoolean() ? "held" : "missed");
        }
    }

    private void mail(UUID account) {
        UUID id = new UUID(random.nextLong(), random.nextLong());
        Instant at = some(random.nextBoolean() ? -8 : -120, 0);
        jdbc.update(
                "INSERT INTO activity (id, item, kind, at, all_day, subject, people, facts, readers, owners, insiders, authors, version, trail)"
                        + " VALUES (?, ?, 'mail', ?::timestamptz, false, 'M', '', '{}', ?::text::uuid[], '{}', '{}', ?::text::uuid[], 'v', '[]')",
                id,
                id,
                at.toString(),
                random.nextInt(12) == 0 ? "{" + UUID.randomUUID() + "}" : null,
                random.nextInt(3) == 0 ? "{" + UUID.randomUUID() + "}" : "{}");
        link(account, at, id, "ACCOUNT");
    }

    private void link(UUID record, Instant at, UUID activity, String kind) {
        jdbc.update(
                "INSERT INTO link (record, at, activity, kind, evidence) VALUES (?, ?::timestamptz, ?, ?, 'ADDRESS')",
                record,
                at.toString(),
                activity,
                kind.toLowerCase(Locale.ROOT));
    }
}
