package jandrel.core.contacts;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.contacts.SortedCard.Facts;
import jandrel.core.contacts.SortedCard.Standing;
import jandrel.core.contacts.SortedCard.Why;
import jandrel.core.policy.BookRules;
import jandrel.core.policy.BookRules.Takes;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Keeping;
import jandrel.core.reconcile.Base;
import jandrel.core.reconcile.Merge;
import jandrel.core.reconcile.Side;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SortedCardTest {
    private static final CardMatchTest.Directory DIRECTORY = new CardMatchTest.Directory()
            .with("Runa Halvorsen", "runa@brisund.example", "+4790000001", "Brisund")
            .with("Post", "post@brisund.example", "-", "Brisund")
            .with("Desk", "post@brisund.example", "-", "Brisund")
            .archived("Liv Aune", "liv@brisund.example", "+4790000007", "Brisund")
            .archived("Liv Aune", "runa@brisund.example", "-", "Brisund");

    private static BookRules rules(Takes takes, boolean creates) {
        BookRules safe = BookRules.SAFE;
        return new BookRules(
                takes,
                List.of("Customers"),
                creates,
                safe.gives(),
                safe.recentDays(),
                safe.most(),
                safe.askAbove(),
                safe.removedThere(),
                safe.removedHere(),
                List.of(),
                List.of(),
                false,
                "");
    }

    static ContactDetails card(String name, String mail, String phone, String category) {
        ContactDetails n = ContactDetails.NOTHING;
        TreeMap<String, String> mails = new TreeMap<>();
        TreeMap<String, String> phones = new TreeMap<>();
        Stream.of(mail).filter(m -> !m.isEmpty()).forEach(m -> mails.put(m, "work"));
        Stream.of(phone).filter(m -> !m.isEmpty()).forEach(m -> phones.put(m, "cell"));
        TreeSet<String> categories = new TreeSet<>();
        Stream.of(category).filter(c -> !c.isEmpty()).forEach(categories::add);
        return new ContactDetails(
                name, n.parts(), "", "", "", "", mails, phones, n.places(), n.urls(), "", "", categories);
    }

    @ParameterizedTest(name = "{0} {1} {3}: {6}")
    @CsvSource({
        // name, address, telephone, category, marked, rules, becomes, why
        "Runa H.,runa@brisund.example,'','',no,all,TIED,FITS_ONE",
        "Runa Halvorsen,'',+4790000001,'',no,all,TIED,FITS_ONE",
        "Somebody,post@brisund.example,'','',no,all,OPEN,FITS_SEVERAL",
        "Liv A.,liv@brisund.example,'','',no,all,LEFT_OUT,ARCHIVED",
        "Liv Aune,'',+4790000007,'',no,all,LEFT_OUT,ARCHIVED",
        "Liv Aune,liv@brisund.example,'',Family,no,all,LEFT_OUT,PRIVATE_CATEGORY",
        "Jon Vik,jon@elsewhere.example,'','',no,all,NEW,FITS_NOBODY",
        "Jon Vik,jon@elsewhere.example,'','',no,ties,LEFT_OUT,NOT_CREATED",
        "Runa H.,runa@brisund.example,'','',private,all,LEFT_OUT,PRIVATE",
        "Runa H.,runa@brisund.example,'',Family,no,all,LEFT_OUT,PRIVATE_CATEGORY",
        "Runa H.,runa@brisund.example,'',FAMILY,no,all,LEFT_OUT,PRIVATE_CATEGORY",
        "Choir,'','','',group,all,LEFT_OUT,GROUP",
        "Runa H.,runa@brisund.example,'',Choir,no,chosen,LEFT_OUT,NOT_CHOSEN",
        "Runa H.,runa@brisund.example,'',CUSTOMERS,no,chosen,TIED,FITS_ONE",
        "Maren,maren@corvane.example,'','',no,all,LEFT_OUT,COLLEAGUE",
        "Reporter,desk@press.example,'','',no,all,LEFT_OUT,EXCLUDED",
        "'','','','',no,all,LEFT_OUT,EMPTY",
    })
    void eachCardHasItsStandingAndItsReason(
            String name,
            String mail,
            String phone,
            String category,
            String marked,
            String rules,
            Standing standing,
            Why why) {
        SortedCard sorted = SortedCard.of(
                new Facts(
                        card(name, mail, phone, category), marked.equals("private"), marked.equals("group"), Set.of()),
                Optional.empty(),
                rules(rules.equals("chosen") ? Takes.CATEGORIES : Takes.ALL, !rules.equals("ties")),
                Set.of("family"),
                DIRECTORY);
        assertThat(sorted.standing()).isEqualTo(standing);
        assertThat(sorted.why()).isEqualTo(why);
        assertThat(sorted.contact().isPresent()).isEqualTo(standing == Standing.TIED);
        if (standing == Standing.LEFT_OUT) {
            assertThat(sorted.speaks()).as("nothing of it is kept").isEmpty();
        }
    }

    @Test
    void onTheFirstMeetingEachSideFillsInWhatTheOtherHasNot() {
        ContactDetails here = ContactField.TITLE.put(
                card("Runa Halvorsen", "runa@brisund.example", "", ""), titled("Harbour master"));
        ContactDetails there =
                ContactField.ORGANISATION.put(card("Runa Halvorsen", "", "+4790000001", ""), organised("Brisund"));
        Merge<ContactDetails> merge = Merge.of(
                ContactField.CONTACT,
                Base.of(ContactDetails.NOTHING),
                new Side<>(here, Instant.EPOCH),
                new Side<>(there, Instant.EPOCH),
                BookRules.SAFE.preference(Keeping.SAFE, Direction.BOTH));
        assertThat(merge.conflicts()).isEmpty();
        ContactDetails both = java.util.Objects.requireNonNull(merge.result());
        assertThat(both.title()).isEqualTo("Harbour master");
        assertThat(both.organisation()).isEqualTo("Brisund");
        assertThat(both.mails()).containsOnlyKeys("runa@brisund.example");
        assertThat(both.phones()).containsOnlyKeys("+4790000001");
    }

    private static ContactDetails titled(String title) {
        ContactDetails n = ContactDetails.NOTHING;
        return new ContactDetails(
                "", n.parts(), "", "", title, "", n.mails(), n.phones(), n.places(), n.urls(), "", "", n.categories());
    }

    private static ContactDetails organised(String name) {
        ContactDetails n = ContactDetails.NOTHING;
        return new ContactDetails(
                "", n.parts(), name, "", "", "", n.mails(), n.phones(), n.places(), n.urls(), "", "", n.categories());
    }
}
