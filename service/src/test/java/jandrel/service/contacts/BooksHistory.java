package jandrel.service.contacts;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.contacts.ContactField;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.RecordKind;
import jandrel.formats.card.CardFile;
import jandrel.formats.card.UnreadableCard;
import jandrel.service.contacts.BookInMemory.Fault;
import jandrel.sources.DavObject;
import jandrel.sources.SourceTrouble;
import jandrel.store.StoreContext;
import jandrel.store.capture.CursorConflict;
import jandrel.store.capture.Scene;
import jandrel.store.contacts.Books;
import jandrel.store.contacts.RemovedCards;
import jandrel.store.contacts.RemovedContact;
import jandrel.store.directory.Directory;
import jandrel.store.directory.Merging;
import jandrel.store.directory.Retiring;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;

/**
 * A directory in a real database and the books of several people, over whole looks: cards are edited, marked private, put into groups and
 * removed by their owners, contacts are edited, moved to another account, merged, split and archived here, and writes fail.
 */
final class BooksHistory {
    private static final int MOST_ROUNDS = 12;
    private static final String[] COMPANIES = {"Account quay", "Account pier", "Nobody and Sons"};

    private record Merged(UUID stays, String before) {}

    private final StoreContext store;
    private final JdbcTemplate sql;
    private final BooksScene scene;
    private final List<Merged> merged = new ArrayList<>();
    private final Set<String> entered = new HashSet<>();
    private final Set<String> replaced = new HashSet<>();
    private final Map<String, String> lines = new TreeMap<>();
    private final Map<Integer, Set<String>> families = new TreeMap<>();
    private int clock;
    final List<String> story = new ArrayList<>();
    final List<String> problems = new ArrayList<>();
    int merges;
    int answers;
    int writes;

    BooksHistory(StoreContext store, SplittableRandom random) throws Exception {
        this.store = store;
        sql = store.get(JdbcTemplate.class);
        scene = new BooksScene(store, random);
        story.add(scene.direction + " " + scene.rules);
    }

    /** One thing that happens, as a number tells. */
    void step(long dice) throws Exception {
        SplittableRandom step = new SplittableRandom(dice);
        clock++;
        int book = step.nextInt(scene.servers.size());
        switch (step.nextInt(15)) {
            case 0, 1 -> editHere(step);
            case 2, 3 -> editCard(book, step);
            case 4 -> newCard(book, step);
            case 5 -> removeCard(book, step);
            case 6 -> merge(step);
            case 7 -> split(step);
            case 8 -> archive(step);
            case 9 -> forget(book, step);
            case 10 -> group(book, step);
            case 11 -> bringBack(step);
            case 12 -> answer(step);
            default -> look(book, Fault.values()[step.nextInt(Fault.values().length)], step);
        }
    }

    private void forget(int book, SplittableRandom step) {
        if (step.nextInt(3) == 0) {
            story.add("book " + book + " forgets what it told");
            scene.servers.get(book).forgetTokens();
        }
    }

    private Optional<UUID> contact(SplittableRandom step) {
        List<UUID> ids = sql.queryForList("SELECT id FROM contact WHERE archived_at IS NULL ORDER BY key", UUID.class);
        return ids.isEmpty() ? Optional.empty() : Optional.of(ids.get(step.nextInt(ids.size())));
    }

    private String enter(String who) {
        String value = who + clock + "x";
        entered.add(value);
        return value;
    }

    private void editHere(SplittableRandom step) throws Exception {
        Optional<UUID> some = contact(step);
        if (some.isEmpty()) {
            return;
        }
        Map<String, Object> row = sql.queryForMap("""
                SELECT c.key, c.version, c.name, c.title, coalesce(a.key, '') AS account,
                    (SELECT coalesce(string_agg(address, ' '), '') FROM contact_address x WHERE x.contact = c.id) AS addresses
                FROM contact c LEFT JOIN account a ON a.id = c.account WHERE c.id = ?
                """, some.get());
        String column = List.of("name", "title", "account", "addresses").get(step.nextInt(4));
        TreeSet<String> addresses = new TreeSet<>(
                Arrays.asList(row.get("addresses").toString().strip().split(" ")));
        addresses.remove("");
        String was = column.equals("addresses") ? "" : row.get(column).toString();
        String value = column.equals("account") ? (was.equals("quay") ? "pier" : "quay") : enter("here");
        if (column.equals("addresses")) {
            if (step.nextInt(3) == 0 && !addresses.isEmpty()) {
                entered.remove(value);
                replaced(addresses.first());
                addresses.remove(addresses.first());
            } else {
                addresses.add(value + "@quay.example");
            }
        }
        replaced(was);
        if (column.equals("name")) {
            // the parts of a name are those of that name
            store.get(Books.class)
                    .details(some.get())
                    .map(d -> d.parts().toString())
                    .ifPresent(this::replaced);
        }
        story.add("here: " + row.get("key") + " " + column + " " + value);
        store.get(Directory.class)
                .change(
                        RecordKind.CONTACT,
                        List.of(new ContactRow(
                                2,
                                row.get("key").toString(),
                                column.equals("name") ? value : row.get("name").toString(),
                                Scene.addresses(addresses.toArray(String[]::new)),
                                List.of(),
                                column.equals("account")
                                        ? value
                                        : row.get("account").toString(),
                                column.equals("title")
                                        ? value
                                        : row.get("title").toString(),
                                null,
                                null)),
                        List.of(new Directory.Edit(
                                some.get(),
                                row.get("key").toString(),
                                ((Number) row.get("version")).longValue(),
                                Set.of(column),
                                null,
                                null)));
    }

    private void replaced(String text) {
        entered.stream().filter(text::contains).forEach(replaced::add);
    }

    private Optional<DavObject> card(int book, SplittableRandom step) {
        List<DavObject> cards = scene.servers.get(book).all().stream()
                .filter(c -> !new String(c.bytes(), StandardCharsets.UTF_8).contains("KIND:group"))
                .toList();
        return cards.isEmpty() ? Optional.empty() : Optional.of(cards.get(step.nextInt(cards.size())));
    }

    static String name(DavObject card) {
        return card.href().substring(card.href().lastIndexOf('/') + 1);
    }

    private void editCard(int book, SplittableRandom step) throws Exception {
        Optional<DavObject> some = card(book, step);
        if (some.isEmpty()) {
            return;
        }
        String text = new String(some.get().bytes(), StandardCharsets.UTF_8);
        // what is secret stays so: of one that becomes everybody's, all comes in
        if (step.nextInt(8) == 0 && !text.contains("secret")) {
            boolean was = text.contains("CLASS:PRIVATE");
            story.add("book " + book + ": " + name(some.get()) + (was ? " is private no more" : " is private"));
            // what it alone said before is kept nowhere else, then
            sql.queryForList(
                            "SELECT f.lost FROM card_conflict f JOIN card d ON d.id = f.card WHERE d.href = ? AND f.here_won AND f.lost IS NOT NULL",
                            String.class,
                            some.get().href())
                    .forEach(this::replaced);
            String now = was
                    ? text.replace("CLASS:PRIVATE\r\n", "")
                    : text.replace("END:VCARD", "CLASS:PRIVATE\r\nEND:VCARD");
            scene.servers.get(book).own(name(some.get()), now.getBytes(StandardCharsets.UTF_8));
            return;
        }
        CardFile file = CardFile.read(some.get().bytes(), BooksScene.PHONES);
        boolean isSecret = file.isPrivate() || text.contains("secret");
        ContactDetails was = file.details();
        ContactField field = ContactField.values()[step.nextInt(ContactField.values().length)];
        String value = (isSecret ? "secret" : "book") + clock + "x";
        ContactDetails now = field.put(was, other(was, value, step));
        if (!isSecret && now.toString().contains(value)) {
            entered.add(value);
        }
        String after = now.toString();
        entered.stream()
                .filter(e -> was.toString().contains(e) && !after.contains(e))
                .forEach(replaced::add);
        story.add("book " + book + ": " + name(some.get()) + " " + field + " " + field.words(now));
        file.put(now, Instant.now(), step.nextInt(3) == 0 ? "" : file.mark());
        scene.servers.get(book).own(name(some.get()), file.bytes());
    }

    private static ContactDetails other(ContactDetails was, String value, SplittableRandom step) {
        TreeSet<String> categories = new TreeSet<>(was.categories());
        if (!categories.remove("customers")) {
            categories.add(step.nextInt(2) == 0 ? "customers" : value);
        }
        TreeMap<String, String> mails = new TreeMap<>(was.mails());
        if (mails.isEmpty() || step.nextInt(3) > 0) {
            mails.put(value + "@quay.example", "work");
        } else {
            mails.remove(mails.firstKey());
        }
        TreeMap<String, String> urls = new TreeMap<>(was.urls());
        urls.put("https://" + value + ".example", "");
        TreeMap<String, String> places = new TreeMap<>(was.places());
        places.put(";;" + value + ";;;;", "work");
        return new ContactDetails(
                value,
                new NameParts(value, "", "", "", ""),
                COMPANIES[step.nextInt(COMPANIES.length)],
                value,
                value,
                value,
                mails,
                new TreeMap<>(Map.of("+479" + (1_000_000 + step.nextInt(50)), "cell")),
                places,
                urls,
                "1980-0" + (1 + step.nextInt(9)) + "-11",
                value,
                categories);
    }

    /** A list of cards as books have them: its members come and go, and who is private in it stays so. */
    private void group(int book, SplittableRandom step) {
        if (step.nextInt(4) == 0) {
            story.add("book " + book + ": the group of customers is removed");
            scene.servers.get(book).own("customers.vcf", null);
            return;
        }
        Set<String> members = new TreeSet<>();
        for (int n = 0; n < 4; n++) {
            members.add(String.valueOf(1 + step.nextInt(clock)));
        }
        story.add("book " + book + ": in the group of customers are " + members);
        putGroup(book, "Customers", members);
    }

    private void putGroup(int book, String name, Set<String> members) {
        StringBuilder card = new StringBuilder("BEGIN:VCARD\r\nVERSION:4.0\r\nKIND:group\r\nUID:g-" + name + "\r\n");
        members.forEach(m -> card.append("MEMBER:urn:uuid:").append(m).append("\r\n"));
        card.append("FN:").append(name).append("\r\nEND:VCARD\r\n");
        scene.servers
                .get(book)
                .own(name.toLowerCase(Locale.ROOT) + ".vcf", card.toString().getBytes(StandardCharsets.UTF_8));
    }

    private void newCard(int book, SplittableRandom step) {
        boolean secret = step.nextInt(4) == 0;
        boolean inFamily = secret && step.nextInt(2) == 0;
        String value = secret ? "secret" + clock + "x" : enter("new");
        String mail = step.nextInt(2) == 0 ? "c" + step.nextInt(4) + "@quay.example" : value + "@elsewhere.example";
        String name = "own" + clock + ".vcf";
        story.add("book " + book + ": " + name + " is new, " + value + " " + mail);
        String own = "X-OWN;TYPE=odd:" + clock + "\\, kept";
        String card = String.join(
                "\r\n",
                "BEGIN:VCARD",
                "VERSION:" + (step.nextInt(2) == 0 ? "3.0" : "4.0"),
                "UID:" + clock,
                own,
                "FN:" + value,
                "N:" + value + ";;;;",
                "EMAIL;TYPE=work:" + mail,
                "CATEGORIES:" + (step.nextInt(3) > 0 ? "customers" : "friends"),
                secret && !inFamily ? "CLASS:PRIVATE" : "NOTE:" + value,
                "END:VCARD",
                "");
        if (inFamily) {
            story.add("  in the group of the family");
            Set<String> family = families.computeIfAbsent(book, b -> new TreeSet<>());
            family.add(String.valueOf(clock));
            putGroup(book, "Family", family);
        }
        scene.servers.get(book).own(name, card.getBytes(StandardCharsets.UTF_8));
        lines.put(book + " " + name, own);
    }

    private void removeCard(int book, SplittableRandom step) throws UnreadableCard {
        Optional<DavObject> some = card(book, step);
        if (some.isEmpty()) {
            return;
        }
        story.add("book " + book + ": " + name(some.get()) + " is removed");
        replaced(CardFile.read(some.get().bytes(), BooksScene.PHONES).details().toString());
        scene.servers.get(book).own(name(some.get()), null);
        lines.remove(book + " " + name(some.get()));
    }

    private void merge(SplittableRandom step) {
        Optional<UUID> stays = contact(step);
        Optional<UUID> goes = contact(step);
        if (stays.isEmpty() || stays.equals(goes)) {
            return;
        }
        story.add("here: " + key(goes.get()) + " is merged into " + key(stays.get()));
        // what no card says, either, stands in what takes the merge back
        String inBooks = scene.direction.comesIn() ? scene.books() : "";
        String gone = store.get(Books.class)
                .details(goes.get())
                .map(ContactDetails::toString)
                .orElse("");
        entered.stream().filter(e -> gone.contains(e) && !inBooks.contains(e)).forEach(replaced::add);
        merged.add(new Merged(stays.get(), store.get(Merging.class).merge("contact", stays.get(), goes.get())));
        merges++;
    }

    private void split(SplittableRandom step) {
        if (merged.isEmpty() || step.nextInt(2) == 0) {
            return;
        }
        Merged last = merged.remove(merged.size() - 1);
        if (sql.queryForList("SELECT id FROM contact WHERE id = ?", UUID.class, last.stays())
                .isEmpty()) {
            return;
        }
        story.add("here: " + key(last.stays()) + " is two again");
        store.get(Books.class)
                .details(last.stays())
                .map(ContactDetails::toString)
                .ifPresent(this::replaced);
        store.get(Merging.class).split("contact", last.stays(), last.before());
    }

    private String key(UUID contact) {
        return String.valueOf(sql.queryForObject("SELECT key FROM contact WHERE id = ?", String.class, contact));
    }

    private void archive(SplittableRandom step) {
        if (step.nextBoolean()) {
            return;
        }
        contact(step).ifPresent(c -> {
            story.add("here: " + key(c) + " is archived");
            store.get(Books.class).details(c).map(ContactDetails::toString).ifPresent(this::replaced);
            store.get(Retiring.class).archive(c, "a test");
        });
    }

    /** What is archived here comes back, with the cards that stayed. */
    private void bringBack(SplittableRandom step) throws Exception {
        List<Map<String, Object>> archived = sql.queryForList(
                "SELECT id, key, version, name FROM contact WHERE archived_at IS NOT NULL ORDER BY key");
        if (archived.isEmpty()) {
            return;
        }
        Map<String, Object> row = archived.get(step.nextInt(archived.size()));
        story.add("here: " + row.get("key") + " is brought back");
        String key = row.get("key").toString();
        store.get(Directory.class)
                .change(
                        RecordKind.CONTACT,
                        List.of(new ContactRow(
                                2, key, row.get("name").toString(), List.of(), List.of(), "", "", null, null)),
                        List.of(new Directory.Edit(
                                (UUID) row.get("id"),
                                key,
                                ((Number) row.get("version")).longValue(),
                                Set.of(),
                                null,
                                false)));
    }

    /** What somebody is asked about, they answer: some, or all. */
    private void answer(SplittableRandom step) {
        for (RemovedContact r : store.get(RemovedCards.class).waiting(null)) {
            boolean removes = step.nextBoolean();
            story.add("of " + r.name() + ", removed " + (r.here() ? "here" : "from a book") + ", the other is "
                    + (removes ? "removed" : "kept"));
            UUID contact = r.contact();
            if (removes && contact != null) {
                store.get(Books.class)
                        .details(contact)
                        .map(ContactDetails::toString)
                        .ifPresent(this::replaced);
            }
            store.get(RemovedCards.class).answer(Set.of(r), removes, "a test");
            answers++;
        }
    }

    private void look(int book, Fault fault, SplittableRandom step) throws Exception {
        story.add("book " + book + " is looked at, " + fault);
        BookInMemory server = scene.servers.get(book);
        server.fault = fault;
        server.overtakes = () -> {
            try {
                editCard(book, step);
            } catch (Exception broken) {
                throw new IllegalStateException(broken);
            }
        };
        look(book);
        server.fault = Fault.NONE;
    }

    private void look(int book) {
        try {
            scene.look(book);
        } catch (SourceTrouble | CursorConflict again) {
            story.add("  " + again.getMessage());
        }
    }

    /** Quiet now: after a few rounds nothing moves any more. */
    void end() throws Exception {
        rest();
        if (!problems.isEmpty()) {
            return;
        }
        // what is in step by now is removed on either side, and somebody says what becomes of it
        SplittableRandom last = new SplittableRandom(clock);
        removeCard(last.nextInt(scene.servers.size()), last);
        archive(last);
        rest();
        answer(last);
        rest();
        if (problems.isEmpty()) {
            problems.addAll(new BooksAgree(scene, store).problems(entered, replaced, lines, families));
        }
    }

    private void rest() {
        String before = "";
        for (int round = 0; ; round++) {
            for (int book = 0; book < scene.servers.size(); book++) {
                scene.servers.get(book).writes = 0;
                look(book);
                writes += scene.servers.get(book).writes;
            }
            String now = scene.everything();
            if (scene.servers.stream().allMatch(s -> s.writes == 0) && now.equals(before)) {
                break;
            }
            if (round == MOST_ROUNDS) {
                problems.add("it does not come to rest");
                return;
            }
            before = now;
        }
    }

    /** What failed, or nothing. */
    @Nullable
    String failed() {
        return problems.isEmpty() ? null : problems + "\n" + String.join("\n", story);
    }
}
