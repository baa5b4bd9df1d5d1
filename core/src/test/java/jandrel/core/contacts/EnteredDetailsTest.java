package jandrel.core.contacts;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.contacts.ContactDetails.NameParts;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class EnteredDetailsTest {
    private static ContactDetails of(String role, String note, String... tags) {
        return new ContactDetails(
                "Ann Quay",
                new NameParts("Quay", "Ann", "", "", ""),
                "Quay and Sons",
                "",
                "Pilot",
                role,
                new TreeMap<>(Map.of("ann@quay.example", "")),
                new TreeMap<>(Map.of("+4791234567", "cell")),
                new TreeMap<>(),
                new TreeMap<>(),
                "",
                note,
                new TreeSet<>(List.of(tags)));
    }

    private static EnteredDetails entered(ContactDetails now, ContactDetails seen, ContactDetails wanted) {
        return EnteredDetails.of(now, seen, wanted, Set.of());
    }

    private static ContactDetails with(ContactField field, ContactDetails into, ContactDetails from) {
        return field.put(into, from);
    }

    private static ContactDetails bornOn(String day) {
        ContactDetails n = ContactDetails.NOTHING;
        return new ContactDetails(
                "", n.parts(), "", "", "", "", n.mails(), n.phones(), n.places(), n.urls(), day, "", n.categories());
    }

    private static ContactDetails at(ContactField field, String member, String kind) {
        ContactDetails n = ContactDetails.NOTHING;
        TreeMap<String, String> one = new TreeMap<>(Map.of(member, kind));
        return with(
                field,
                n,
                new ContactDetails("", n.parts(), "", "", "", "", one, one, one, one, "", "", n.categories()));
    }

    @Test
    void whatTwoPeopleEnterOfDifferentThingsStandsAndOfTheSameIsSaid() {
        ContactDetails seen = of("Buyer", "", "berths");
        ContactDetails now = of("Buyer", "Rings on Mondays", "berths", "customers");
        EnteredDetails mine = entered(now, seen, of("Owner", "", "berths", "winter"));
        assertThat(mine.overtaken()).isEmpty();
        assertThat(mine.details()).isEqualTo(of("Owner", "Rings on Mondays", "berths", "customers", "winter"));
        assertThat(entered(now, seen, of("Buyer", "Rings on Fridays", "berths")).overtaken())
                .containsExactly(ContactField.NOTE);
        // somebody who was told so puts theirs in its place, and undoes nothing else
        EnteredDetails over =
                EnteredDetails.of(now, seen, of("Buyer", "Rings on Fridays", "berths"), Set.of(ContactField.NOTE));
        assertThat(over.overtaken()).isEmpty();
        assertThat(over.details()).isEqualTo(of("Buyer", "Rings on Fridays", "berths", "customers"));
        // what both came to is no quarrel
        assertThat(entered(now, seen, of("Buyer", "Rings on Mondays", "berths")).overtaken())
                .isEmpty();
    }

    @Test
    void addressesAndNumbersGetKindsAndNeitherComeNorGo() {
        ContactDetails now = of("", "");
        ContactDetails wanted = with(ContactField.MAILS, now, at(ContactField.MAILS, "ann@quay.example", "work"));
        wanted = with(ContactField.PHONES, wanted, at(ContactField.PHONES, "+4799999999", "home"));
        ContactDetails then = entered(now, now, wanted).details();
        assertThat(then.mails()).containsExactly(Map.entry("ann@quay.example", "work"));
        assertThat(then.phones()).containsExactly(Map.entry("+4791234567", "cell"));
        assertThat(then.name()).isEqualTo("Ann Quay");
        assertThat(then.title()).isEqualTo("Pilot");
        assertThat(then.organisation()).isEqualTo("Quay and Sons");
    }

    @Test
    void howACardLaysANoteOutIsNobodysChange() {
        ContactDetails now = of("Buyer", "Rings\r\non Mondays ");
        ContactDetails seen = EnteredDetails.tidied(now);
        assertThat(entered(now, seen, seen).details()).isEqualTo(now);
        EnteredDetails mine = entered(now, seen, EnteredDetails.tidied(of("Buyer", "Rings on Fridays")));
        assertThat(mine.overtaken()).isEmpty();
        assertThat(mine.details()).isEqualTo(of("Buyer", "Rings on Fridays"));
    }

    @Test
    void whatNobodyChangedStays() {
        SplittableRandom random = new SplittableRandom(7);
        for (int n = 0; n < 500; n++) {
            ContactDetails now = of(some(random), some(random), some(random), some(random));
            ContactDetails seen = of(some(random), some(random), some(random));
            EnteredDetails same = entered(now, seen, seen);
            assertThat(same.details()).isEqualTo(now);
            assertThat(same.overtaken()).isEmpty();
            assertThat(entered(now, now, seen).details().categories()).isEqualTo(seen.categories());
        }
    }

    private static String some(SplittableRandom random) {
        return "t" + random.nextInt(4);
    }

    @Test
    void whatIsTypedIsTidied() {
        ContactDetails typed = new ContactDetails(
                "x",
                new NameParts(" Quay ", "Ann\tMarie", "", "", ""),
                "x",
                " Berths ",
                "x",
                "",
                new TreeMap<>(),
                new TreeMap<>(),
                new TreeMap<>(Map.of(
                        EnteredDetails.place(List.of(" Quay 1; left ", "Skarvik", " ", "4001", "")),
                        "work",
                        ";;;;",
                        "")),
                new TreeMap<>(Map.of(" https://quay.example ", "", "  ", "")),
                " --04-02 ",
                "one\r\ntwo\u0007\rthree ",
                new TreeSet<>(List.of(" a\nb ", " ")));
        ContactDetails tidy = EnteredDetails.tidied(typed);
        assertThat(tidy.parts()).isEqualTo(new NameParts("Quay", "Ann Marie", "", "", ""));
        assertThat(tidy.places()).containsExactly(Map.entry("Quay 1, left;Skarvik;;4001;", "work"));
        assertThat(ContactField.PLACES.words(tidy)).isEqualTo("Quay 1, left, Skarvik, 4001 (work)");
        assertThat(EnteredDetails.parts("Quay 1, left;Skarvik;;4001;"))
                .containsExactly("Quay 1, left", "Skarvik", "", "4001", "");
        assertThat(tidy.urls()).containsExactly(Map.entry("https://quay.example", ""));
        assertThat(tidy.birthday()).isEqualTo("--04-02");
        assertThat(tidy.note()).isEqualTo("one\ntwo\nthree");
        assertThat(tidy.categories()).containsExactly("a b");
        assertThat(EnteredDetails.problems(ContactDetails.NOTHING, tidy)).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"1980-02-30", "80-04-02", "--13-01", "--02-30", "1980", "April", "+1980-04-02", "---01"})
    void aDayThatIsNoneIsRefusedUnlessItStoodThere(String day) {
        assertThat(EnteredDetails.problems(ContactDetails.NOTHING, bornOn(day))).containsKey(ContactField.BIRTHDAY);
        assertThat(EnteredDetails.problems(bornOn(day), bornOn(day))).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"javascript:alert(1)", "quay.example", "https://", "ftp://quay.example", "https://a b"})
    void whatIsNoAddressOfTheWebIsRefusedUnlessItStoodThere(String url) {
        ContactDetails wanted = at(ContactField.URLS, url, "");
        assertThat(EnteredDetails.problems(ContactDetails.NOTHING, wanted)).containsKey(ContactField.URLS);
        assertThat(EnteredDetails.problems(wanted, at(ContactField.URLS, url, "work")))
                .isEmpty();
    }

    @Test
    void whatIsTooLongTooManyOrOfNoKindIsRefused() {
        String longer = "x".repeat(10_001);
        assertThat(EnteredDetails.problems(ContactDetails.NOTHING, of(longer, longer, longer)))
                .containsOnlyKeys(ContactField.ROLE, ContactField.NOTE, ContactField.CATEGORIES);
        String[] many = IntStream.range(0, 51).mapToObj(n -> "t" + n).toArray(String[]::new);
        assertThat(EnteredDetails.problems(ContactDetails.NOTHING, of("", "", many)))
                .containsOnlyKeys(ContactField.CATEGORIES);
        assertThat(EnteredDetails.problems(ContactDetails.NOTHING, at(ContactField.PLACES, longer, "")))
                .containsKey(ContactField.PLACES);
        assertThat(EnteredDetails.problems(ContactDetails.NOTHING, at(ContactField.PLACES, "Quay 1;;;;", "boat")))
                .containsKey(ContactField.PLACES);
    }
}
