package jandrel.service.contacts;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactField;
import jandrel.core.policy.Direction;
import jandrel.formats.card.CardFile;
import jandrel.formats.card.UnreadableCard;
import jandrel.sources.DavObject;
import jandrel.store.StoreContext;
import jandrel.store.contacts.Books;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.jdbc.core.JdbcTemplate;

/** What has to hold of a directory and the books of several people once all is quiet. */
final class BooksAgree {
    private final BooksScene scene;
    private final StoreContext store;
    private final JdbcTemplate sql;
    private final List<String> problems = new ArrayList<>();

    BooksAgree(BooksScene scene, StoreContext store) {
        this.scene = scene;
        this.store = store;
        this.sql = store.get(JdbcTemplate.class);
    }

    /**
     * @param entered values that somebody gave, and {@code replaced} those of them that may be gone
     * @param lines of cards that are theirs alone, by book and name
     * @param families the cards that are private by a list, by book
     */
    List<String> problems(
            Set<String> entered, Set<String> replaced, Map<String, String> lines, Map<Integer, Set<String>> families)
            throws Exception {
        String everything = scene.everything();
        String here = scene.tables();
        if (here.contains("secret")) {
            problems.add("something private came in: " + around(here, "secret"));
        }
        Integer noted = sql.queryForObject(
                "SELECT count(*) FROM journal t WHERE to_jsonb(t)::text LIKE '%secret%'", Integer.class);
        if (noted == null || noted > 0) {
            problems.add("something private stands in the journal");
        }
        for (BookInMemory server : scene.servers) {
            for (DavObject card : server.all()) {
                String text = new String(card.bytes(), StandardCharsets.UTF_8);
                boolean isFamily = families.values().stream().anyMatch(f -> f.contains(uid(text)));
                if (text.contains("secret") && !text.contains("CLASS:PRIVATE") && !isFamily) {
                    problems.add("something private went out: " + text);
                }
            }
        }
        lines.forEach((card, line) -> {
            int book = Integer.parseInt(card.substring(0, card.indexOf(' ')));
            scene.servers.get(book).all().stream()
                    .filter(c -> BooksHistory.name(c).equals(card.substring(card.indexOf(' ') + 1)))
                    .filter(c -> !new String(c.bytes(), StandardCharsets.UTF_8).contains(line))
                    .forEach(c -> problems.add("its own line has gone from " + card));
        });
        entered.stream()
                .filter(e -> !replaced.contains(e) && !everything.contains(e))
                .forEach(e -> problems.add(e + " is lost"));
        if (scene.direction == Direction.BOTH) {
            for (int book = 0; book < scene.servers.size(); book++) {
                same(book);
            }
        }
        return problems;
    }

    private static String uid(String card) {
        int at = card.indexOf("UID:");
        return at < 0 ? "" : card.substring(at + 4, card.indexOf("\r\n", at));
    }

    /** Every tied card says what its contact does. */
    private void same(int book) throws UnreadableCard {
        Map<String, DavObject> cards = new TreeMap<>();
        scene.servers.get(book).all().forEach(c -> cards.put(c.href(), c));
        for (Map<String, Object> row :
                sql.queryForList("""
                SELECT d.href, d.contact FROM card d JOIN source o ON o.id = d.source JOIN contact c ON c.id = d.contact
                WHERE o.connection = ? AND d.standing = 'TIED' AND NOT d.detached AND d.removal = '' AND c.archived_at IS NULL
                """, scene.connections.get(book).id())) {
            DavObject card = cards.get(row.get("href").toString());
            ContactDetails here =
                    store.get(Books.class).details((UUID) row.get("contact")).orElseThrow();
            if (card == null) {
                problems.add("book " + book + " has no card " + row.get("href") + " of " + here.name());
                continue;
            }
            ContactDetails there =
                    CardFile.read(card.bytes(), BooksScene.PHONES).details();
            for (ContactField field : ContactField.values()) {
                if (!field.of(here).equals(field.of(there))) {
                    problems.add("book " + book + ": " + BooksHistory.name(card) + " says " + field + " "
                            + field.words(there) + ", here is " + field.words(here));
                }
            }
        }
    }

    private static String around(String text, String what) {
        int at = text.indexOf(what);
        return text.substring(Math.max(0, at - 200), Math.min(text.length(), at + 100));
    }
}
