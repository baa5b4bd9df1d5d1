package jandrel.core.contacts;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.contacts.CardMatch.Ground;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class CardMatchTest {
    /** A directory in memory: each contact as name, address, telephone and account, with hyphens for none. */
    static final class Directory implements CardIndex {
        private final List<String[]> rows = new ArrayList<>();
        private final Map<UUID, UUID> merged = new HashMap<>();
        private final Set<UUID> archived = new HashSet<>();

        Directory with(String name, String mail, String phone, String account) {
            rows.add(new String[] {name, mail, phone, account});
            return this;
        }

        Directory archived(String name, String mail, String phone, String account) {
            archived.add(id(name + mail + phone));
            return with(name, mail, phone, account);
        }

        static UUID id(String name) {
            return UUID.nameUUIDFromBytes(name.getBytes(java.nio.charset.StandardCharsets.UTF_8));
        }

        private Known known(String[] row) {
            String key = row[0] + row[1] + row[2];
            return new Known(
                    id(key),
                    NameKey.of(row[0]),
                    row[3].equals("-") ? Optional.empty() : Optional.of(id(row[3])),
                    archived.contains(id(key)));
        }

        private List<Known> where(int column, String value) {
            return rows.stream()
                    .filter(r -> r[column].equals(value))
                    .map(this::known)
                    .toList();
        }

        @Override
        public Optional<UUID> now(UUID contact) {
            UUID now = merged.getOrDefault(contact, contact);
            return rows.stream()
                    .map(this::known)
                    .map(Known::id)
                    .filter(now::equals)
                    .findFirst();
        }

        @Override
        public List<Known> byMail(String mail) {
            return where(1, mail);
        }

        @Override
        public List<Known> byPhone(String phone) {
            return where(2, phone);
        }

        @Override
        public List<Known> byName(NameKey name) {
            return rows.stream()
                    .filter(r -> NameKey.of(r[0]).equals(name))
                    .map(this::known)
                    .toList();
        }

        @Override
        public List<UUID> accounts(ContactDetails card) {
            return card.organisation().isEmpty() ? List.of() : List.of(id(card.organisation()));
        }

        @Override
        public boolean isInside(String mail) {
            return mail.endsWith("@corvane.example");
        }

        @Override
        public boolean isExcluded(String mail) {
            return mail.endsWith("@press.example");
        }
    }

    private static final Directory HARBOUR = new Directory()
            .with("Runa Halvorsen", "runa@skarvik.example", "+4790000001", "Skarvik")
            .with("Runa Halvorsen", "rh@quay.example", "+4790000002", "Quay")
            .with("Bo Lind", "office@quay.example", "+4790000003", "Quay")
            .with("Åse Lind", "office@quay.example", "+4790000003", "Quay")
            .with("Einar Vik", "-", "+4790000003", "-")
            .with("Tor", "-", "-", "Quay");

    private static ContactDetails card(String name, String mail, String phone, String organisation) {
        ContactDetails n = ContactDetails.NOTHING;
        return new ContactDetails(
                name,
                n.parts(),
                organisation,
                "",
                "",
                "",
                mail.equals("-") ? n.mails() : new TreeMap<>(Map.of(mail, "work")),
                phone.equals("-") ? n.phones() : new TreeMap<>(Map.of(phone, "")),
                n.places(),
                n.urls(),
                "",
                "",
                n.categories());
    }

    private static CardMatch match(ContactDetails card) {
        return CardMatch.of(card, Optional.empty(), HARBOUR);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            Runa H.          | runa@skarvik.example | -           |         | Runa Halvorsenruna@skarvik.example+4790000001 | ADDRESS
            Halvorsen, RUNA  | -                    | +4790000002 |         | Runa Halvorsenrh@quay.example+4790000002      | TELEPHONE_AND_NAME
            Runa Halvorsen   | -                    | -           | Skarvik | Runa Halvorsenruna@skarvik.example+4790000001 | NAME_AT_ACCOUNT
            Ase Lind         | -                    | +4790000003 |         | Åse Lindoffice@quay.example+4790000003        | TELEPHONE_AND_NAME
            Einar Vik        | -                    | +4790000003 |         | Einar Vik-+4790000003                         | TELEPHONE_AND_NAME
            """)
    void theStrongestGroundThatPointsToOneDecides(
            String name, String mail, String phone, String organisation, String contact, Ground ground) {
        CardMatch match = match(card(name, mail, phone, organisation == null ? "" : organisation));
        assertThat(match.contact()).contains(Directory.id(contact));
        assertThat(match.speaks().get(match.contact().get())).startsWith(ground);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            Runa Halvorsen | -                  | -           | Elsewhere
            Runa Halvorsen | -                  | -           |
            Runa           | -                  | +4790000001 |
            Tor            | -                  | -           | Quay
            Somebody       | new@quay.example   | +4790000009 | Quay
            -              | -                  | +4790000003 |
            """)
    void whoMerelyLooksAlikeIsNobody(String name, String mail, String phone, String organisation) {
        CardMatch match = match(card(name, mail, phone, organisation == null ? "" : organisation));
        assertThat(match.contact()).isEmpty();
        assertThat(match.isOpen()).isFalse();
    }

    /** An address that two share tells nothing by itself, and the name is no reason to guess. */
    @Test
    void whatPointsToSeveralIsForAPersonWithWhatSpeaksForEach() {
        CardMatch match = match(card("Bo Lind", "office@quay.example", "+4790000003", "Quay"));
        assertThat(match.isOpen()).isTrue();
        assertThat(match.speaks().values())
                .containsExactlyInAnyOrder(
                        List.of(Ground.ADDRESS, Ground.TELEPHONE_AND_NAME, Ground.NAME_AT_ACCOUNT),
                        List.of(Ground.ADDRESS));
    }

    @Test
    void whomBothAgreedOnStaysWhateverTheCardSaysByNowAndGoesWithAMerge() {
        ContactDetails other = card("Bo Lind", "office@quay.example", "-", "");
        UUID runa = Directory.id("Runa Halvorsenruna@skarvik.example+4790000001");
        assertThat(CardMatch.of(other, Optional.of(runa), HARBOUR).contact()).contains(runa);
        UUID gone = UUID.randomUUID();
        assertThat(CardMatch.of(other, Optional.of(gone), HARBOUR).contact()).isEmpty();
        HARBOUR.merged.put(gone, runa);
        assertThat(CardMatch.of(other, Optional.of(gone), HARBOUR).contact()).contains(runa);
        HARBOUR.merged.clear();
    }

    @Test
    void twoCardsOfOneContactInOneBookAreNotBothTaken() {
        UUID runa = UUID.randomUUID();
        CardMatch agreed = new CardMatch(Optional.of(runa), Map.of(runa, List.of(Ground.AGREED)));
        CardMatch found = new CardMatch(Optional.of(runa), Map.of(runa, List.of(Ground.ADDRESS)));
        CardMatch another = new CardMatch(
                Optional.of(UUID.nameUUIDFromBytes(new byte[1])),
                Map.of(UUID.nameUUIDFromBytes(new byte[1]), List.of(Ground.ADDRESS)));
        assertThat(CardMatch.doubles(Map.of("a", agreed, "b", found, "c", another)))
                .containsOnlyKeys("b");
        assertThat(CardMatch.doubles(Map.of("a", found, "b", found))).containsOnlyKeys("a", "b");
        assertThat(CardMatch.doubles(Map.of("a", found))).isEmpty();
    }

    /** Whatever order the directory is in; and nobody is chosen among several that the same ground points to. */
    @ParameterizedTest
    @ValueSource(longs = {1, 22, 333})
    void orderCountsForNothingAndNobodyIsGuessed(long seed) {
        Random random = new Random(seed);
        String[] names = {"Runa Vik", "Bo Vik", "Vik, Runa", "Åse"};
        for (int n = 0; n < 500; n++) {
            Directory one = new Directory();
            for (int i = random.nextInt(6); i >= 0; i--) {
                one.with(
                        names[random.nextInt(4)],
                        "m" + random.nextInt(3) + "@a.example",
                        "+4790000" + random.nextInt(3),
                        "Account " + random.nextInt(2));
            }
            Directory other = new Directory();
            other.rows.addAll(one.rows);
            Collections.shuffle(other.rows, random);
            ContactDetails card = card(
                    names[random.nextInt(4)],
                    random.nextBoolean() ? "-" : "m" + random.nextInt(4) + "@a.example",
                    random.nextBoolean() ? "-" : "+4790000" + random.nextInt(4),
                    random.nextBoolean() ? "" : "Account " + random.nextInt(3));
            CardMatch match = CardMatch.of(card, Optional.empty(), one);
            assertThat(CardMatch.of(card, Optional.empty(), other)).isEqualTo(match);
            Map<Ground, Integer> counts = new LinkedHashMap<>();
            match.speaks().values().forEach(grounds -> grounds.forEach(g -> counts.merge(g, 1, Integer::sum)));
            match.contact().ifPresent(c -> {
                Ground best = match.speaks().get(c).get(0);
                assertThat(counts.get(best)).isOne();
                assertThat(counts.keySet()).allMatch(g -> g.compareTo(best) >= 0);
            });
        }
    }
}
