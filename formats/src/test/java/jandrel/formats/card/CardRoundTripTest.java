package jandrel.formats.card;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.contacts.ContactField;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/**
 * Each kind of change to each kind of card: what was meant stands, everything else is as it was, to the byte and in its order, and the
 * version of the card is kept.
 */
class CardRoundTripTest {
    private static final Instant STAMP = Instant.parse("2026-11-02T10:00:00Z");
    private static final Map<ContactField, Set<String>> LINES = Map.ofEntries(
            Map.entry(ContactField.NAME, Set.of("FN")),
            Map.entry(ContactField.PARTS, Set.of("N")),
            Map.entry(ContactField.ORGANISATION, Set.of("ORG")),
            Map.entry(ContactField.UNIT, Set.of("ORG")),
            Map.entry(ContactField.TITLE, Set.of("TITLE")),
            Map.entry(ContactField.ROLE, Set.of("ROLE")),
            Map.entry(ContactField.MAILS, Set.of("EMAIL", "X-ABLABEL")),
            Map.entry(ContactField.PHONES, Set.of("TEL", "X-ABLABEL")),
            Map.entry(ContactField.PLACES, Set.of("ADR", "X-ABADR")),
            Map.entry(ContactField.URLS, Set.of("URL")),
            Map.entry(ContactField.BIRTHDAY, Set.of("BDAY")),
            Map.entry(ContactField.NOTE, Set.of("NOTE")),
            Map.entry(ContactField.CATEGORIES, Set.of("CATEGORIES")));

    private static ContactDetails changed(ContactDetails d) {
        TreeMap<String, String> mails = new TreeMap<>(d.mails());
        mails.replaceAll((mail, kind) -> kind.equals("home") ? "work" : "home");
        mails.put("new@elsewhere.example", "work");
        TreeMap<String, String> phones = new TreeMap<>(d.phones());
        if (!phones.isEmpty()) {
            phones.remove(phones.firstKey());
        }
        phones.put("+4798765432", "cell");
        TreeMap<String, String> places = new TreeMap<>(Map.of("Quay 9, „north“;Bergen;;5003;Norway", "work"));
        TreeMap<String, String> urls = new TreeMap<>(d.urls());
        urls.put("https://elsewhere.example/a?b=c;d", "");
        TreeSet<String> categories = new TreeSet<>(d.categories());
        categories.remove("Friends");
        categories.add("Rope, thick; long");
        return new ContactDetails(
                "Rúna; „Ru“, 3\\",
                new NameParts("Vik, Haug", "Rúna; M", "", "Dr.", ""),
                "Grün; Quay, Sons",
                "Drift;Los, night",
                "Skipper, „old“",
                "Buys rope; sells, too",
                mails,
                phones,
                places,
                urls,
                "1990-02-28",
                "One line\nand another; with a comma, a backslash \\ and ø — "
                        + "and it goes on for longer than any line may be, so that it has to be folded somewhere",
                categories);
    }

    /** Those that a change of the part does not touch. */
    private static List<String> others(byte[] bytes, Set<String> touched) throws UnreadableCard {
        List<String> others = new ArrayList<>();
        for (CardLine line : CardLine.all(bytes, StandardCharsets.ISO_8859_1, 10_000)) {
            if (!touched.contains(line.name()) && !Set.of("REV", CardEdits.MARK).contains(line.name())) {
                others.add(new String(line.raw(), StandardCharsets.ISO_8859_1));
            }
        }
        return others;
    }

    @ParameterizedTest
    @EnumSource(ContactField.class)
    void onlyWhatWasMeantHasChanged(ContactField field) throws UnreadableCard {
        for (String name : Cards.readable()) {
            byte[] bytes = Cards.bytes(name);
            CardFile card = CardFile.read(bytes, Cards.PHONES);
            String version = card.version();
            ContactDetails before = card.details();
            ContactDetails wanted = field.put(before, changed(before));
            card.put(wanted, STAMP, "a-mark");
            byte[] after = card.bytes();
            CardFile again = CardFile.read(after, Cards.PHONES);
            for (ContactField each : ContactField.values()) {
                assertThat(each.words(again.details()))
                        .as("%s: %s after a change of %s", name, each, field)
                        .isEqualTo(each.words(wanted));
            }
            assertThat(again.mark()).isEqualTo("a-mark");
            assertThat(again.version()).as(name).isEqualTo(version);
            Set<String> touched = new TreeSet<>(LINES.get(field));
            if (!new String(bytes, StandardCharsets.ISO_8859_1).matches("(?s).*\nFN[^\n]*:[^\r\n].*")) {
                // a card has to have one (RFC 6350 §6.2.1)
                touched.add("FN");
            }
            assertThat(others(after, touched)).as(name).isEqualTo(others(bytes, touched));
            // and nothing is written without a change
            again.put(again.details(), STAMP.plusSeconds(60), "");
            assertThat(again.bytes()).as(name).isEqualTo(after);
        }
    }

    @ParameterizedTest
    @EnumSource(ContactField.class)
    void whatIsTakenOffIsGone(ContactField field) throws UnreadableCard {
        if (field == ContactField.NAME) {
            return; // every card has one
        }
        for (String name : Cards.readable()) {
            CardFile card = CardFile.read(Cards.bytes(name), Cards.PHONES);
            ContactDetails wanted = field.put(card.details(), ContactDetails.NOTHING);
            card.put(wanted, STAMP, "");
            CardFile again = CardFile.read(card.bytes(), Cards.PHONES);
            assertThat(field.words(again.details())).as("%s: %s", name, field).isEqualTo(field.words(wanted));
        }
    }
}
