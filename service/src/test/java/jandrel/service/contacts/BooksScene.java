package jandrel.service.contacts;

import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jandrel.core.policy.BookRules;
import jandrel.core.policy.BookRules.Gives;
import jandrel.core.policy.BookRules.Removed;
import jandrel.core.policy.BookRules.Takes;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Scope;
import jandrel.formats.mail.Phones;
import jandrel.store.StoreContext;
import jandrel.store.capture.Scene;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import jandrel.store.contacts.Books;
import jandrel.store.contacts.CardIntake;
import jandrel.store.contacts.CardLedger;
import jandrel.store.people.People;
import jandrel.store.policy.Policies;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.UUID;
import org.springframework.jdbc.core.JdbcTemplate;

/** One or two people of a company in a real database, each with a book in memory, under rules that a number tells. */
final class BooksScene {
    static final Phones PHONES = new Phones("NO");
    private final JdbcTemplate sql;
    final BookRules rules;
    final Direction direction;
    final List<Connection> connections = new ArrayList<>();
    final List<BookInMemory> servers = new ArrayList<>();
    private final ContactPass pass;

    BooksScene(StoreContext store, SplittableRandom random) throws Exception {
        this(store, 1 + random.nextInt(2), Direction.values()[1 + random.nextInt(3)], rules(random));
    }

    private static BookRules rules(SplittableRandom random) {
        return new BookRules(
                Takes.values()[random.nextInt(2)],
                List.of("customers"),
                random.nextInt(4) > 0,
                Gives.values()[random.nextInt(2)],
                90,
                500,
                1_000,
                removed(random),
                removed(random),
                List.of(),
                List.of(),
                random.nextBoolean(),
                "");
    }

    /** Half of the time somebody is asked, as that takes the most steps. */
    private static Removed removed(SplittableRandom random) {
        return random.nextBoolean() ? Removed.ASK : Removed.values()[random.nextInt(2)];
    }

    /** One person, whose cards come in and make contacts. */
    static BooksScene takingIn(StoreContext store, Takes takes, boolean makesAccounts) throws Exception {
        BookRules rules = new BookRules(
                takes,
                List.of("customers"),
                true,
                Gives.ALL,
                90,
                500,
                1_000,
                Removed.KEEP,
                Removed.KEEP,
                List.of(),
                List.of(),
                makesAccounts,
                "");
        return new BooksScene(store, 1, Direction.IN, rules);
    }

    /** One person, in whose book are all contacts, whatever is removed where. */
    static BooksScene bothWays(StoreContext store, Removed there, Removed here) throws Exception {
        BookRules rules = new BookRules(
                Takes.ALL, List.of(), true, Gives.ALL, 90, 500, 1_000, there, here, List.of(), List.of(), false, "");
        return new BooksScene(store, 1, Direction.BOTH, rules);
    }

    private BooksScene(StoreContext store, int people, Direction direction, BookRules rules) throws Exception {
        this.sql = store.get(JdbcTemplate.class);
        this.direction = direction;
        this.rules = rules;
        Scene scene = Scene.anew(store).people(people).account("quay").account("pier");
        sql.update("UPDATE account SET owner = ? WHERE key = 'quay'", scene.person(0));
        sql.update("DELETE FROM card_conflict");
        for (int n = 0; n < 3; n++) {
            scene.contact("c" + n, n == 2 ? "pier" : "quay", "c" + n + "@quay.example");
        }
        Connections all = store.get(Connections.class);
        for (int p = 0; p < people; p++) {
            Server server = Server.of(UUID.randomUUID(), "s" + UUID.randomUUID(), "carddav", "h", 1, "/");
            all.addServer(server);
            UUID id = UUID.randomUUID();
            all.add(
                    Connection.fresh(
                            id, scene.person(p), server.id(), "p" + p, new byte[1], Instant.EPOCH, "capturing"),
                    Scene.NOON,
                    "");
            connections.add(all.connection(id).orElseThrow());
            servers.add(new BookInMemory("/b" + p + "/"));
        }
        Policies policies = mock(Policies.class);
        when(policies.of(any(UUID.class))).thenReturn(Optional.of(policy()));
        pass = new ContactPass(
                all,
                policies,
                store.get(People.class),
                store.get(Books.class),
                store.get(CardIntake.class),
                store.get(CardLedger.class),
                PHONES,
                Clock.systemUTC());
    }

    private Policy policy() {
        return Policy.first()
                .with(new Scope(true, true, Direction.IN, direction, 90, 60))
                .with(rules);
    }

    void look(int book) {
        pass.over(servers.get(book), connections.get(book));
    }

    /** All that is kept here. */
    String tables() {
        StringBuilder all = new StringBuilder();
        for (String table : List.of("contact", "contact_address", "contact_details", "card", "card_conflict")) {
            sql.queryForList("SELECT to_jsonb(t)::text FROM " + table + " t ORDER BY 1", String.class)
                    .forEach(row -> all.append(row).append('\n'));
        }
        return all.toString();
    }

    String everything() {
        return tables() + books();
    }

    /** All that stands in books. */
    String books() {
        StringBuilder all = new StringBuilder();
        servers.forEach(s -> s.all().forEach(c -> all.append(new String(c.bytes(), StandardCharsets.UTF_8))));
        return all.toString();
    }
}
