package jandrel.core.contacts;

import jandrel.core.policy.BookCondition.Field;
import java.util.Collection;
import java.util.Collections;
import java.util.List;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * What both sides can say of a contact. Whatever else a card holds (RFC 6350) is that card's alone.
 *
 * @param name as it is shown (§6.2.1)
 * @param parts of the name (§6.2.2)
 * @param organisation the name of the company (§6.6.4)
 * @param unit the parts of the company, the largest first, with semicolons between; may be empty
 * @param title the position (§6.6.1)
 * @param role what they do (§6.6.2)
 * @param mails each with its kind: {@code work}, {@code home} or empty; lower case
 * @param phones each with its kind: {@code work}, {@code home}, {@code cell}, {@code fax} or empty; as numbers are compared where it is
 *     a number, else as it stands
 * @param places postal addresses, each with its kind: street, town, region, code and country with semicolons between
 * @param urls each with its kind
 * @param birthday as ISO 8601 has it, with {@code --} before one without a year; may be empty
 * @param note may have several lines
 * @param categories tags
 */
public record ContactDetails(
        String name,
        NameParts parts,
        String organisation,
        String unit,
        String title,
        String role,
        SortedMap<String, String> mails,
        SortedMap<String, String> phones,
        SortedMap<String, String> places,
        SortedMap<String, String> urls,
        String birthday,
        String note,
        SortedSet<String> categories) {
    /** One of whom nothing is known. */
    public static final ContactDetails NOTHING = new ContactDetails(
            "",
            NameParts.NONE,
            "",
            "",
            "",
            "",
            new TreeMap<>(),
            new TreeMap<>(),
            new TreeMap<>(),
            new TreeMap<>(),
            "",
            "",
            new TreeSet<>());

    /** Each may be empty; several given names are one text. */
    public record NameParts(String family, String given, String additional, String prefix, String suffix) {
        /** A name that is not known in parts. */
        public static final NameParts NONE = new NameParts("", "", "", "", "");
    }

    /** One of whom nothing is known but the name. */
    public static ContactDetails called(String name, NameParts parts) {
        return new ContactDetails(
                name,
                parts,
                "",
                "",
                "",
                "",
                NOTHING.mails,
                NOTHING.phones,
                NOTHING.places,
                NOTHING.urls,
                "",
                "",
                NOTHING.categories);
    }

    /** What there is of a field that a policy asks for. */
    public Collection<String> of(Field field) {
        return switch (field) {
            case NAME -> List.of(name);
            case ORGANISATION -> List.of(organisation);
            case UNIT -> List.of(unit);
            case TITLE -> List.of(title);
            case ROLE -> List.of(role);
            case MAIL -> mails.keySet();
            case TELEPHONE -> phones.keySet();
            case PLACE -> places.keySet();
            case WEB_ADDRESS -> urls.keySet();
            case BIRTHDAY -> List.of(birthday);
            case CATEGORY -> categories;
            case NOTE -> List.of(note);
            // a card has none
            case OWN -> List.of();
        };
    }

    public ContactDetails {
        mails = Collections.unmodifiableSortedMap(new TreeMap<>(mails));
        phones = Collections.unmodifiableSortedMap(new TreeMap<>(phones));
        places = Collections.unmodifiableSortedMap(new TreeMap<>(places));
        urls = Collections.unmodifiableSortedMap(new TreeMap<>(urls));
        categories = Collections.unmodifiableSortedSet(new TreeSet<>(categories));
    }
}
