package jandrel.store.contacts;

import jandrel.core.address.EmailAddress;
import jandrel.core.address.PhoneNumber;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.contacts.ContactField;
import jandrel.core.contacts.EnteredDetails;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.RecordKind;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.policy.BookCondition;
import jandrel.store.contacts.CardMapper.ContactSide;
import jandrel.store.directory.Directory;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Json;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Our side of a contact: the directory’s columns, and beside them what cards say and the directory has no column for. What the directory
 * changed since the two were last brought together stands; all else is as it was agreed on, to the letter, so that nothing is taken for
 * a change that is none.
 */
@Component
class ContactStates {
    private static final int LONGEST_NAME = 200;
    private final CardMapper mapper;
    private final Directory directory;
    private final Journal journal;

    ContactStates(CardMapper mapper, Directory directory, Journal journal) {
        this.mapper = mapper;
        this.directory = directory;
        this.journal = journal;
    }

    /** The directory's columns, as they were. */
    record Columns(String name, String title, String account, List<String> addresses, List<String> phones) {
        static final Columns NONE = new Columns("", "", "", List.of(), List.of());

        static Columns of(ContactSide s) {
            return new Columns(s.name(), s.title(), s.accountName(), List.of(s.addresses()), List.of(s.phones()));
        }
    }

    static ContactDetails here(ContactSide side) {
        ContactDetails was = side.details() == null ? ContactDetails.NOTHING : Json.contact(side.details());
        Columns then = side.columns() == null ? Columns.NONE : Json.read(side.columns(), Columns.class);
        Columns now = Columns.of(side);
        boolean renamed = !then.name().equals(now.name());
        boolean known = side.details() != null;
        return new ContactDetails(
                renamed ? now.name() : was.name(),
                renamed && known ? parts(now.name()) : was.parts(),
                then.account().equals(now.account()) ? was.organisation() : now.account(),
                was.unit(),
                then.title().equals(now.title()) ? was.title() : now.title(),
                was.role(),
                members(was.mails(), then.addresses(), now.addresses()),
                members(was.phones(), then.phones(), now.phones()),
                was.places(),
                was.urls(),
                was.birthday(),
                was.note(),
                was.categories());
    }

    /** What there is of the field that a condition asks for. */
    static Function<BookCondition, Collection<String>> known(ContactSide side) {
        ContactDetails here = here(side);
        Map<?, ?> own = (Map<?, ?>) Json.any(side.own());
        return condition -> condition.field() != BookCondition.Field.OWN
                ? here.of(condition.field())
                : Stream.ofNullable(own.get(condition.own()))
                        .map(Object::toString)
                        .toList();
    }

    private static SortedMap<String, String> members(
            SortedMap<String, String> was, List<String> then, List<String> now) {
        TreeMap<String, String> members = new TreeMap<>(was);
        then.stream().filter(m -> !now.contains(m)).forEach(members::remove);
        now.stream().filter(m -> !then.contains(m)).forEach(m -> members.putIfAbsent(m, ""));
        return members;
    }

    /** A name that is known as a whole: the last word is the family's. */
    static NameParts parts(String name) {
        String whole = name.strip();
        int last = whole.lastIndexOf(' ');
        return last < 0
                ? new NameParts("", whole, "", "", "")
                : new NameParts(whole.substring(last + 1), whole.substring(0, last), "", "", "");
    }

    /** What is known of a contact, the directory's columns and all else; nothing where there is no such contact. */
    Optional<ContactDetails> of(UUID contact) {
        return mapper.side(contact).map(ContactStates::here);
    }

    /** As a card of theirs would have it. */
    static ContactDetails whole(ContactSide side) {
        return side.details() == null ? withParts(here(side)) : here(side);
    }

    /**
     * Of whom nothing but the directory's columns is known: what a card of theirs begins with.
     *
     * @return whether there was anybody of whom no more was known
     */
    boolean begin(Collection<UUID> contacts) {
        Map<ContactSide, ContactDetails> fresh = new LinkedHashMap<>();
        mapper.withoutDetails(contacts.toArray(UUID[]::new)).forEach(s -> fresh.put(s, withParts(here(s))));
        keep(fresh);
        return !fresh.isEmpty();
    }

    private static ContactDetails withParts(ContactDetails d) {
        return ContactField.PARTS.put(d, ContactDetails.called("", parts(d.name())));
    }

    private void keep(Map<ContactSide, ContactDetails> details) {
        mapper.details(
                details.keySet().stream().map(ContactSide::id).toArray(UUID[]::new),
                details.values().stream().map(Json::write).toArray(String[]::new),
                details.keySet().stream().map(s -> Json.write(Columns.of(s))).toArray(String[]::new));
    }

    /**
     * Our side becomes what both agreed on.
     *
     * @param by who is named in the journal
     */
    void change(ContactSide side, ContactDetails now, String by) throws ImportRejected {
        ContactDetails was = here(side);
        Set<String> columns = new TreeSet<>();
        String name = line(now.name());
        if (!was.name().equals(now.name()) && !name.isEmpty() && !name.equals(side.name())) {
            columns.add("name");
        }
        if (!was.title().equals(now.title()) && !line(now.title()).equals(side.title())) {
            columns.add("title");
        }
        Optional<String> account = was.organisation().equals(now.organisation())
                ? Optional.empty()
                : mapper.accountCalled(now.organisation()).filter(a -> !a.equals(side.accountKey()));
        account.ifPresent(a -> columns.add("account"));
        List<EmailAddress> addresses = merged(side.addresses(), was.mails(), now.mails()).stream()
                .flatMap(a -> EmailAddress.parse(a).stream())
                .distinct()
                .toList();
        if (!texts(addresses).equals(Set.of(side.addresses()))) {
            columns.add("addresses");
        }
        List<PhoneNumber> phones = merged(side.phones(), was.phones(), now.phones()).stream()
                .flatMap(p -> PhoneNumber.of(p).stream())
                .distinct()
                .toList();
        if (!texts(phones).equals(Set.of(side.phones()))) {
            columns.add("phones");
        }
        if (!columns.isEmpty()) {
            ContactRow row = new ContactRow(
                    0,
                    side.key(),
                    columns.contains("name") ? name : side.name(),
                    addresses,
                    phones,
                    account.orElse(side.accountKey()),
                    line(now.title()),
                    null,
                    null);
            Directory.Edit edit = new Directory.Edit(side.id(), side.key(), side.version(), columns, null, null);
            directory.change(RecordKind.CONTACT, List.of(row), List.of(edit));
        } else {
            mapper.touched(side.id());
        }
        keep(Map.of(mapper.side(side.id()).orElseThrow(), now));
        journal.add(
                by,
                "changed",
                new Thing("contact", side.id().toString(), side.name()),
                fields(was, now, was),
                fields(was, now, now));
    }

    /** What the directory has of a list, with what was put on and taken off. */
    private static Set<String> merged(String[] has, SortedMap<String, String> was, SortedMap<String, String> now) {
        Set<String> merged = new TreeSet<>(Arrays.asList(has));
        was.keySet().stream().filter(m -> !now.containsKey(m)).forEach(merged::remove);
        now.keySet().stream().filter(m -> !was.containsKey(m)).forEach(merged::add);
        return merged;
    }

    private static Set<String> texts(List<?> values) {
        Set<String> texts = new TreeSet<>();
        values.forEach(v -> texts.add(v.toString()));
        return texts;
    }

    private static Map<String, Object> fields(ContactDetails was, ContactDetails now, ContactDetails of) {
        Map<String, Object> changed = new TreeMap<>();
        for (ContactField field : ContactField.values()) {
            if (!field.of(was).equals(field.of(now))) {
                // what somebody noted of a person has no place in a record that nobody can change
                changed.put(field.name().toLowerCase(Locale.ROOT), field == ContactField.NOTE ? "" : field.words(of));
            }
        }
        return changed;
    }

    static String line(String text) {
        String line = EnteredDetails.line(text);
        return line.length() > LONGEST_NAME ? line.substring(0, LONGEST_NAME) : line;
    }

    /**
     * Makes contacts of those who are in a book alone.
     *
     * @param accounts of each, by its place in the list; a key, or null for none
     * @return their ids, in the same order
     */
    List<UUID> create(List<ContactDetails> cards, List<@Nullable String> accounts, String by) throws ImportRejected {
        List<ContactRow> rows = new ArrayList<>();
        for (int n = 0; n < cards.size(); n++) {
            ContactDetails d = cards.get(n);
            String name = line(d.name());
            String account = accounts.get(n);
            rows.add(new ContactRow(
                    0,
                    "card-" + UUID.randomUUID(),
                    name.isEmpty() ? d.phones().firstKey() : name,
                    d.mails().keySet().stream()
                            .flatMap(m -> EmailAddress.parse(m).stream())
                            .toList(),
                    d.phones().keySet().stream()
                            .flatMap(p -> PhoneNumber.of(p).stream())
                            .toList(),
                    account == null ? "" : account,
                    line(d.title()),
                    null,
                    null));
        }
        directory.contacts(rows);
        String[] keys = rows.stream().map(ContactRow::key).toArray(String[]::new);
        mapper.madeBy(keys, by);
        Map<String, ContactSide> made = new HashMap<>();
        mapper.sides(keys).forEach(s -> made.put(s.key(), s));
        Map<ContactSide, ContactDetails> details = new LinkedHashMap<>();
        for (int n = 0; n < cards.size(); n++) {
            details.put(java.util.Objects.requireNonNull(made.get(keys[n])), cards.get(n));
        }
        keep(details);
        return details.keySet().stream().map(ContactSide::id).toList();
    }
}
