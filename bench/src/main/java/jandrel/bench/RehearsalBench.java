package jandrel.bench;

import jandrel.core.directory.Exclusion;
import jandrel.core.rehearse.Draft;
import jandrel.core.rehearse.Effects;
import jandrel.core.rehearse.Turn.Effect;
import jandrel.demo.Stand;
import jandrel.store.rehearsal.Rehearsing;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicLong;

/** Rehearsing an exclusion over a million known items, against a plain scan of the same rows. */
final class RehearsalBench {
    private static final int ITEMS = 1_000_000;
    private static final int ROUNDS = 3;
    private final Stand stand;

    RehearsalBench(Stand stand) {
        this.stand = stand;
    }

    void run() throws SQLException {
        try (Opened store = new Opened(stand, "bench_rehearsal")) {
            Database database = store.database();
            fill(database);
            Rehearsing rehearsing = store.bean(Rehearsing.class);
            double scan = Double.MAX_VALUE;
            for (int round = 0; round < ROUNDS; round++) {
                scan = Math.min(scan, scan(database));
            }
            Figures.line("floor: a plain scan of 1 M known items", "%.2f s", scan);
            for (String domain : List.of("@d7.example", "@big.example")) {
                double best = Double.MAX_VALUE;
                AtomicLong said = new AtomicLong();
                Effects effects = new Effects();
                for (int round = 0; round < ROUNDS; round++) {
                    long began = System.nanoTime();
                    effects = rehearsing.rehearse(
                            Draft.excluding(List.of(Exclusion.of(UUID.randomUUID(), domain, ""))),
                            (source, positions) -> Map.of(),
                            (done, total) -> said.incrementAndGet(),
                            () -> false,
                            turn -> true);
                    best = Math.min(best, (System.nanoTime() - began) / 1e9);
                }
                Figures.line(
                        "rehearsing the exclusion of " + domain.substring(1),
                        "%.2f s   %.2fx (bar 2)   %,d items touched, %,d vanish, progress told %,d times",
                        best,
                        best / scan,
                        effects.items(),
                        effects.activities(Effect.VANISHES),
                        said.get() / ROUNDS);
            }
        }
    }

    private static double scan(Database database) throws SQLException {
        long began = System.nanoTime();
        database.count(
                "SELECT count(*) + sum(length(facts)) + sum(cardinality(keys)) FROM sighting WHERE facts IS NOT NULL");
        return (System.nanoTime() - began) / 1e9;
    }

    /** A thousand domains with a thousand messages each on average; one of them has a hundred times as many. */
    static void fill(Database database) throws SQLException {
        database.run("INSERT INTO person (id, key, name) VALUES (md5('p')::uuid, 'p', 'Person')");
        database.run("INSERT INTO server VALUES (md5('s')::uuid, 's', 'imap', 'h', 1, '/')");
        database.run("""
                INSERT INTO connection (id, person, server, account, connected_at, since)
                VALUES (md5('c')::uuid, md5('p')::uuid, md5('s')::uuid, 'p', now(), '2020-01-01')""");
        database.run(
                "INSERT INTO source (connection, kind, name, label) VALUES (md5('c')::uuid, 'folder', 'INBOX', 'inbox')");
        database.run("INSERT INTO cover SELECT md5('p')::uuid, id, version, true, 'everyone' FROM policy");
        database.run(
                "INSERT INTO account SELECT md5('a' || n)::uuid, 'a' || n, 'Account ' || n FROM generate_series(0, 999) n");
        database.run("INSERT INTO account VALUES (md5('big')::uuid, 'big', 'Big')");
        database.run(
                "INSERT INTO account_domain SELECT '@d' || n || '.example', md5('a' || n)::uuid FROM generate_series(0, 999) n");
        database.run("INSERT INTO account_domain VALUES ('@big.example', md5('big')::uuid)");
        String domain = "CASE WHEN n %% 20 = 0 THEN 'big.example' ELSE 'd' || n %% 1000 || '.example' END";
        String account = "md5(CASE WHEN n %% 20 = 0 THEN 'big' ELSE 'a' || n %% 1000 END)::uuid";
        String facts = """
                jsonb_build_object('identity', 'mail:' || n, 'at', timestamptz '2024-01-01', 'dateFromHeader', true, 'parties',
                    jsonb_build_array(jsonb_build_object('part', 'FROM', 'address', 'c' || n %% 40 || '@' || @DOM@, 'name', 'Contact'),
                    jsonb_build_object('part', 'TO', 'address', 'p@corvane.example', 'name', 'Person')),
                    'subject', 'About item ' || n, 'nature', jsonb_build_object('kind', 'ORDINARY', 'evidence', ''), 'markers',
                    '[]'::jsonb)::text""".replace("@DOM@", domain);
        database.run("""
                INSERT INTO sighting (id, source, position, person, item, kind, at, verdict, rule, trail, links, sharing, insiders, facts, keys)
                SELECT md5('s' || n)::uuid, 1, '1/' || n, md5('p')::uuid, md5('i' || n)::uuid, 'mail',
                    timestamptz '2024-01-01' + n * interval '40 seconds', 'logged', 'READ_BY_EVERYONE',
                    '[{"rule":"ACCOUNT_DOMAIN","facts":{"account":"A","address":"c@d.example","domain":"d.example"}},{"rule":"READ_BY_EVERYONE","facts":{}}]',
                    '[{"kind":"ACCOUNT","record":"' || @ACC@ || '","evidence":"DOMAIN"}]', 'EVERYONE', ARRAY[]::uuid[], @FACTS@,
                    ARRAY['c' || n %% 40 || '@' || @DOM@, '@' || @DOM@, 'p@corvane.example', '@corvane.example']
                FROM generate_series(0, @N@ - 1) n""".replace("@FACTS@", facts)
                .replace("@ACC@", account)
                .replace("@DOM@", domain)
                .replace("@N@", String.valueOf(ITEMS))
                .replace("%%", "%"));
        database.run("VACUUM ANALYZE");
    }
}
