package jandrel.store.timeline;

import static jandrel.store.capture.Scene.NOON;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Content;
import jandrel.core.item.Inside;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.Sketch;
import jandrel.core.item.ThreadHeaders;
import jandrel.core.search.Folding;
import jandrel.core.search.Language;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;

/** Whatever was written, in five languages: what is found is what a plain scan over it finds. */
class SearchScanTest {
    private static final List<String> WORDS =
            List.of(("the offer offers offered for harbour and chains chain running we have"
                            + " der die das Angebot Angebote prüfen geprüft Häuser Haus und wir haben nicht"
                            + " les devis des bouées et pour vous réparations réparer nous avons une"
                            + " el presupuesto que los para con puertos puerto señales"
                            + " och inte jag båtar båten offerten från er så 12abc 5e10abc x1 Ærø smørrebrød STRASSE")
                    .split(" "));
    private static final String HEAD = " q port example p0 corvane";
    private static final int TEXTS = 150;
    private static StoreContext store;
    private static JdbcTemplate jdbc;
    private final Map<String, Set<String>> known = new HashMap<>();

    /** A text, its words in order, and what the forms of each have in common. */
    private record Written(String subject, String language, String folded, Set<String> forms) {}

    @BeforeAll
    static void open() throws Exception {
        store = new StoreContext("test_search_scan");
        jdbc = store.get(JdbcTemplate.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @Test
    void findsWhatAPlainScanFinds() throws Exception {
        Random random = new Random(Long.getLong("jandrel.seed", 11));
        List<Written> all = written(random);
        for (int i = 0; i < 300; i++) {
            List<String> words = some(random, 1 + random.nextInt(3));
            List<String> phrase = random.nextInt(4) == 0 ? some(random, 2) : List.of();
            String begins = random.nextInt(3) == 0 ? one(random).substring(0, 2) : "";
            boolean not = random.nextInt(4) == 0;
            String typed = String.join(" ", words)
                    + (phrase.isEmpty() ? "" : " \"" + String.join(" ", phrase) + "\"")
                    + (begins.isEmpty() ? "" : " " + (not ? "-" : "") + begins + "*");
            Set<String> scanned = all.stream()
                    .filter(w -> words.stream().allMatch(word -> hasWord(w, word)))
                    .filter(w -> phrase.isEmpty()
                            || (" " + w.folded + " ").contains(" " + folded(String.join(" ", phrase)) + " "))
                    .filter(w -> begins.isEmpty()
                            || (" " + w.folded + " " + w.subject + HEAD).contains(" " + folded(begins)) != not)
                    .map(Written::subject)
                    .collect(Collectors.toSet());
            assertThat(Finding.found(store, typed, new Viewer(Role.ADMINISTRATOR, null)).hits().stream()
                            .map(Search.Hit::subject)
                            .collect(Collectors.toSet()))
                    .as(typed)
                    .isEqualTo(scanned);
        }
    }

    @Test
    void theDatabaseFoldsAsTheCoreDoes() {
        Random random = new Random(Long.getLong("jandrel.seed", 12));
        for (int i = 0; i < 400; i++) {
            StringBuilder text = new StringBuilder();
            for (int c = random.nextInt(40); c > 0; c--) {
                text.appendCodePoint(letter(random));
            }
            String folded = jdbc.queryForObject("SELECT search_fold(?)", String.class, text.toString());
            assertThat(String.valueOf(folded).strip()).as(text.toString()).isEqualTo(folded(text.toString()));
        }
    }

    /** Latin in all its forms, Greek, Cyrillic, marks, and what stands between words. */
    private static int letter(Random random) {
        return switch (random.nextInt(6)) {
            case 0 -> ' ' + random.nextInt(95);
            case 1 -> 0xc0 + random.nextInt(0x17f - 0xc0);
            case 2 -> 0x386 + random.nextInt(0x44f - 0x386);
            case 3 -> 0x300 + random.nextInt(0x30);
            case 4 -> 0x1f600 + random.nextInt(40);
            default -> 'a' + random.nextInt(26);
        };
    }

    private static List<Written> written(Random random) throws Exception {
        Scene scene = Scene.anew(store).people(1).account("port", "port.example");
        List<Written> all = new ArrayList<>();
        List<FetchedItem> seen = new ArrayList<>();
        for (int i = 0; i < TEXTS; i++) {
            StringBuilder text = new StringBuilder();
            int from = random.nextInt(WORDS.size());
            for (int w = random.nextInt(25) + 1; w > 0; w--) {
                // mostly of one language
                int at = random.nextInt(5) == 0
                        ? random.nextInt(WORDS.size())
                        : (from + random.nextInt(12)) % WORDS.size();
                text.append(WORDS.get(at))
                        .append(List.of(" ", ", ", ". ", "\n", "-").get(random.nextInt(5)));
            }
            String said = text.toString();
            seen.add(new FetchedItem("1/" + i, mail(i), () -> new Content(said, "", List.of())));
            String language = Language.of(said).letter();
            all.add(new Written("s" + i, language, folded(said), forms(folded(said + " s" + i + HEAD), language)));
        }
        store.get(Intake.class).take(scene.place(0), seen, List.of(), null);
        return all;
    }

    private static MailItem mail(int i) {
        return new MailItem(
                        "mail:" + i,
                        NOON.plus(5L * i, ChronoUnit.DAYS),
                        true,
                        List.of(
                                new Party(Part.FROM, EmailAddress.of("q@port.example"), ""),
                                new Party(Part.TO, EmailAddress.of("p0@corvane.example"), "")),
                        "s" + i,
                        Nature.ORDINARY,
                        List.of(),
                        new ThreadHeaders("r" + i, List.of(), false),
                        Inside.NOTHING)
                .saying(Sketch.of("s" + i));
    }

    private static String one(Random random) {
        return WORDS.get(random.nextInt(WORDS.size()));
    }

    private static List<String> some(Random random, int n) {
        return random.ints(n, 0, WORDS.size()).mapToObj(WORDS::get).toList();
    }

    private static String folded(String text) {
        return String.join(" ", Folding.words(text));
    }

    /** A text has a word if it has a form of it. */
    private boolean hasWord(Written written, String word) {
        return written.forms.containsAll(
                known.computeIfAbsent(written.language + word, k -> forms(folded(word), written.language)));
    }

    private static Set<String> forms(String folded, String language) {
        return Set.copyOf(jdbc.queryForList(
                "SELECT search_stem(?, w) FROM unnest(string_to_array(?, ' ')) w", String.class, language, folded));
    }
}
