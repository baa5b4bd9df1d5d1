package jandrel.service.contacts;

import jandrel.api.ContactApi.CardFact;
import jandrel.api.ContactApi.ContactBook;
import jandrel.api.ContactApi.ContactCard;
import jandrel.api.ContactApi.ContactChange;
import jandrel.api.ContactApi.ContactMore;
import jandrel.api.ContactApi.ContactName;
import jandrel.api.ContactApi.OfKind;
import jandrel.api.ContactApi.PostalAddress;
import jandrel.api.DirectoryApi.LineProblem;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.contacts.ContactField;
import jandrel.core.contacts.EnteredDetails;
import jandrel.core.directory.ImportRejected;
import jandrel.formats.mail.OneLine;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.contacts.BookStands;
import jandrel.store.contacts.DetailsHere;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What is known of a contact besides the directory's columns, and in whose address books it stands. */
@RestController
class ContactCalls {
    private static final List<ContactField> BESIDE = List.of(
            ContactField.UNIT,
            ContactField.ROLE,
            ContactField.PLACES,
            ContactField.URLS,
            ContactField.BIRTHDAY,
            ContactField.CATEGORIES,
            ContactField.NOTE);
    private static final Map<ContactField, String> NAMES = Map.of(
            ContactField.PARTS, "parts of the name",
            ContactField.UNIT, "unit",
            ContactField.ROLE, "role",
            ContactField.MAILS, "kinds of addresses",
            ContactField.PHONES, "kinds of numbers",
            ContactField.PLACES, "postal addresses",
            ContactField.URLS, "web addresses",
            ContactField.BIRTHDAY, "birthday",
            ContactField.NOTE, "note",
            ContactField.CATEGORIES, "tags");
    private static final int MOST_SHOWN = 100;
    private final BookStands stands;
    private final DetailsHere details;

    ContactCalls(BookStands stands, DetailsHere details) {
        this.stands = stands;
        this.details = details;
    }

    /** In whose books a contact stands, and what is known of it that the directory has no column for. */
    @GetMapping("/api/records/{id}/address-books")
    ContactCard standing(@PathVariable("id") UUID id) {
        List<ContactBook> in = stands.standing(id).stream()
                .map(s -> new ContactBook(
                        s.label(),
                        s.personName(),
                        s.detached()
                                ? "apart"
                                : s.asked() ? "waits for an answer" : s.pending() ? "to be written" : "in step",
                        s.madeHere()))
                .toList();
        ContactDetails known = details.of(id).orElse(null);
        if (known == null) {
            return new ContactCard(in, List.of(), null);
        }
        List<CardFact> facts = BESIDE.stream()
                .map(f -> new CardFact(named(f), f.words(known)))
                .filter(f -> !f.words().isBlank())
                .toList();
        return new ContactCard(in, facts, shown(known));
    }

    /** What differs from what was seen is changed, and goes out to the address books that the contact stands in. */
    @PutMapping("/api/records/{id}/details")
    @LargestBody(kilobytes = 512)
    ContactCard change(
            @PathVariable("id") UUID id, @RequestBody ContactChange change, @AuthenticationPrincipal SignedIn me)
            throws ImportRejected {
        ContactDetails seen = entered(change.seen());
        ContactDetails wanted = entered(change.wanted());
        Map<ContactField, String> problems = EnteredDetails.problems(seen, wanted);
        if (!problems.isEmpty()) {
            throw Refusal.misfit(
                    "Nothing was changed",
                    "Mend what is named below.",
                    problems.entrySet().stream()
                            .map(p -> new LineProblem(0, named(p.getKey()), p.getValue()))
                            .toList());
        }
        EnteredDetails entered = details.change(id, seen, wanted, named(change.over()), me.login())
                .orElseThrow(() -> Refusal.notFound("contact"));
        if (!entered.overtaken().isEmpty()) {
            ContactDetails now = details.of(id).orElseThrow(() -> Refusal.notFound("contact"));
            throw Refusal.overtaken(
                    "Somebody else changed this meanwhile",
                    "Nothing was changed. Save again to put yours in its place.",
                    entered.overtaken().stream()
                            .sorted()
                            .map(f -> new LineProblem(0, named(f), isNow(f.words(now))))
                            .toList());
        }
        return standing(id);
    }

    private static String isNow(String words) {
        return words.isEmpty()
                ? "nothing stands there now"
                : "it is “" + OneLine.shortened(OneLine.plain(words), MOST_SHOWN) + "” now";
    }

    private static Set<ContactField> named(List<String> names) {
        Set<ContactField> fields = EnumSet.noneOf(ContactField.class);
        for (String name : names) {
            fields.add(NAMES.entrySet().stream()
                    .filter(e -> e.getValue().equals(name))
                    .map(Map.Entry::getKey)
                    .findFirst()
                    .orElseThrow(() -> Refusal.bad(
                            "Nothing here is called “" + name + "”",
                            "Name it as the refusal did: " + String.join(", ", new TreeSet<>(NAMES.values())) + ".")));
        }
        return fields;
    }

    private static String named(ContactField field) {
        return Objects.requireNonNull(NAMES.get(field));
    }

    private static ContactMore shown(ContactDetails d) {
        NameParts p = d.parts();
        return new ContactMore(
                new ContactName(p.family(), p.given(), p.additional(), p.prefix(), p.suffix()),
                d.unit(),
                d.role(),
                listed(d.mails()),
                listed(d.phones()),
                d.places().entrySet().stream()
                        .map(e -> place(EnteredDetails.parts(e.getKey()), e.getValue()))
                        .toList(),
                listed(d.urls()),
                d.birthday(),
                d.note(),
                List.copyOf(d.categories()));
    }

    private static List<OfKind> listed(SortedMap<String, String> members) {
        return members.entrySet().stream()
                .map(e -> new OfKind(e.getKey(), e.getValue()))
                .toList();
    }

    private static PostalAddress place(List<String> parts, String kind) {
        return new PostalAddress(parts.get(0), parts.get(1), parts.get(2), parts.get(3), parts.get(4), kind);
    }

    private static ContactDetails entered(ContactMore more) {
        ContactName n = more.name();
        TreeMap<String, String> places = new TreeMap<>();
        more.places()
                .forEach(p -> places.put(
                        EnteredDetails.place(List.of(p.street(), p.town(), p.region(), p.code(), p.country())),
                        p.kind()));
        return EnteredDetails.tidied(new ContactDetails(
                "",
                new NameParts(n.family(), n.given(), n.additional(), n.prefix(), n.suffix()),
                "",
                more.unit(),
                "",
                more.role(),
                members(more.mails()),
                members(more.phones()),
                places,
                members(more.urls()),
                more.birthday(),
                more.note(),
                new TreeSet<>(more.tags())));
    }

    private static SortedMap<String, String> members(List<OfKind> list) {
        TreeMap<String, String> members = new TreeMap<>();
        list.forEach(m -> members.put(m.value(), m.kind()));
        return members;
    }
}
