package jandrel.core.contacts;

import jandrel.core.reconcile.Base;
import jandrel.core.reconcile.Members;
import jandrel.core.reconcile.Part;
import jandrel.core.reconcile.Shape;
import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The parts of a contact that are merged each by itself. The names are stored: never rename one. */
// it holds nothing that could change
@SuppressWarnings("ImmutableEnumChecker")
public enum ContactField implements Part<ContactDetails> {
    NAME(ContactDetails::name),
    PARTS(ContactDetails::parts),
    ORGANISATION(ContactDetails::organisation),
    UNIT(ContactDetails::unit),
    TITLE(ContactDetails::title),
    ROLE(ContactDetails::role),
    MAILS(ContactDetails::mails),
    PHONES(ContactDetails::phones),
    PLACES(ContactDetails::places),
    URLS(ContactDetails::urls),
    BIRTHDAY(ContactDetails::birthday),
    NOTE(ContactDetails::note),
    CATEGORIES(ContactDetails::categories);

    /** A contact, as it is kept in step. */
    public static final Shape<ContactDetails> CONTACT = new Shape<>() {
        @Override
        public List<ContactField> parts() {
            return List.of(values());
        }

        /** A contact is there or not. */
        @Override
        public ContactDetails cancel(ContactDetails details) {
            return details;
        }
    };

    private final Function<ContactDetails, Object> value;

    ContactField(Function<ContactDetails, Object> value) {
        this.value = value;
    }

    @Override
    public Object of(ContactDetails details) {
        return value.apply(details);
    }

    @Override
    public String words(ContactDetails details) {
        return switch (this) {
            case PARTS -> parts(details.parts());
            case MAILS -> listed(details.mails());
            case PHONES -> listed(details.phones());
            case PLACES -> places(details.places());
            case URLS -> listed(details.urls());
            case CATEGORIES -> String.join(", ", details.categories());
            default -> of(details).toString();
        };
    }

    private static String parts(ContactDetails.NameParts p) {
        return List.of(p.prefix(), p.given(), p.additional(), p.family(), p.suffix()).stream()
                .filter(part -> !part.isEmpty())
                .collect(Collectors.joining(" "));
    }

    private static String listed(Map<String, String> members) {
        return members.entrySet().stream()
                .map(e -> ofKind(e.getKey(), e.getValue()))
                .collect(Collectors.joining(", "));
    }

    private static String places(Map<String, String> places) {
        return places.entrySet().stream()
                .map(e -> ofKind(
                        Stream.of(e.getKey().split(";"))
                                .filter(part -> !part.isBlank())
                                .collect(Collectors.joining(", ")),
                        e.getValue()))
                .collect(Collectors.joining("; "));
    }

    private static String ofKind(String member, String kind) {
        return member + (kind.isEmpty() ? "" : " (" + kind + ")");
    }

    @Override
    public ContactDetails put(ContactDetails into, ContactDetails from) {
        return new ContactDetails(
                this == NAME ? from.name() : into.name(),
                this == PARTS ? from.parts() : into.parts(),
                this == ORGANISATION ? from.organisation() : into.organisation(),
                this == UNIT ? from.unit() : into.unit(),
                this == TITLE ? from.title() : into.title(),
                this == ROLE ? from.role() : into.role(),
                this == MAILS ? from.mails() : into.mails(),
                this == PHONES ? from.phones() : into.phones(),
                this == PLACES ? from.places() : into.places(),
                this == URLS ? from.urls() : into.urls(),
                this == BIRTHDAY ? from.birthday() : into.birthday(),
                this == NOTE ? from.note() : into.note(),
                this == CATEGORIES ? from.categories() : into.categories());
    }

    /** Of a list, both sides may well have taken off the same. */
    @Override
    public boolean isTelling() {
        return members() == null;
    }

    @Override
    public @Nullable Combined<ContactDetails> combine(
            @Nullable Base<ContactDetails> base, ContactDetails ours, ContactDetails theirs, boolean hereWins) {
        Function<ContactDetails, SortedMap<String, String>> members = members();
        if (members == null) {
            return null;
        }
        Members<String> merged = Members.of(base, ours, theirs, hereWins, members);
        return new Combined<>(put(ours, only(merged.merged())), merged.clash());
    }

    private @Nullable Function<ContactDetails, SortedMap<String, String>> members() {
        return switch (this) {
            case MAILS -> ContactDetails::mails;
            case PHONES -> ContactDetails::phones;
            case PLACES -> ContactDetails::places;
            case URLS -> ContactDetails::urls;
            case CATEGORIES ->
                details -> {
                    TreeMap<String, String> each = new TreeMap<>();
                    details.categories().forEach(c -> each.put(c, ""));
                    return each;
                };
            default -> null;
        };
    }

    /** One that has these members of this part alone. */
    ContactDetails only(SortedMap<String, String> m) {
        ContactDetails n = ContactDetails.NOTHING;
        return new ContactDetails(
                "",
                n.parts(),
                "",
                "",
                "",
                "",
                this == MAILS ? m : n.mails(),
                this == PHONES ? m : n.phones(),
                this == PLACES ? m : n.places(),
                this == URLS ? m : n.urls(),
                "",
                "",
                this == CATEGORIES ? new TreeSet<>(m.keySet()) : n.categories());
    }
}
