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
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.contacts.BookStands;
import jandrel.store.contacts.DetailsHere;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.http.HttpStatus;
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
                .map(f -> new CardFact(
                        f.name().toLowerCase(Locale.ROOT), f == ContactField.PLACES ? places(known) : f.words(known)))
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
        if (details.of(id).isEmpty()) {
            throw Refusal.notFound("contact");
        }
        Set<ContactField> overtaken = details.change(id, seen, wanted, me.login());
        if (!overtaken.isEmpty()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "Somebody else changed this meanwhile: "
                            + overtaken.stream()
                                    .sorted()
                                    .map(ContactCalls::named)
                                    .collect(Collectors.joining(", ")),
                    "Nothing was changed. Look at what it is now, and save again to put yours in place of it.");
        }
        return standing(id);
    }

    private static String places(ContactDetails known) {
        return known.places().entrySet().stream()
                .map(e -> EnteredDetails.parts(e.getKey()).stream()
                                .filter(part -> !part.isBlank())
                                .collect(Collectors.joining(", "))
                        + (e.getValue().isEmpty() ? "" : " (" + e.getValue() + ")"))
                .collect(Collectors.joining("; "));
    }

    private static String named(ContactField field) {
        return NAMES.getOrDefault(field, field.name());
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
                        EnteredDetails.place(p.street(), p.town(), p.region(), p.code(), p.country()), p.kind()));
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
