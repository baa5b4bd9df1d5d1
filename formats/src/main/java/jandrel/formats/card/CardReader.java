package jandrel.formats.card;

import com.github.mangstadt.vinnie.io.VObjectPropertyValues;
import ezvcard.VCard;
import ezvcard.VCardDataType;
import ezvcard.VCardVersion;
import ezvcard.io.ParseContext;
import ezvcard.io.scribe.TelephoneScribe;
import ezvcard.io.text.VCardReader;
import ezvcard.parameter.VCardParameters;
import ezvcard.property.Address;
import ezvcard.property.Birthday;
import ezvcard.property.Categories;
import ezvcard.property.Email;
import ezvcard.property.Organization;
import ezvcard.property.StructuredName;
import ezvcard.property.Telephone;
import ezvcard.property.TextProperty;
import ezvcard.property.Url;
import jandrel.core.address.EmailAddress;
import jandrel.core.address.PhoneNumber;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.contacts.EnteredDetails;
import jandrel.formats.mail.Phones;
import java.io.IOException;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** What a card says, by the library that knows all its dialects. For reading only: what it writes is not what it read. */
final class CardReader {
    /** The first that a member is counts. */
    static final List<String> KINDS = List.of("fax", "cell", "work", "home");

    private static final Pattern BLANKS = Pattern.compile("[\\p{Cntrl}\\s]+");
    private static final char DELETE = 127;
    private static final PhoneScribe PHONE = new PhoneScribe();

    /** Takes for a URI (RFC 3966) what begins as one: the library tries all, and words a refusal of each that is none. */
    private static final class PhoneScribe extends TelephoneScribe {
        private static final String SCHEME = "tel:";

        @Override
        protected Telephone _parseText(
                String value, VCardDataType type, VCardParameters parameters, ParseContext context) {
            String text = VObjectPropertyValues.unescape(value);
            return VCardDataType.URI.equals(type) || text.regionMatches(true, 0, SCHEME, 0, SCHEME.length())
                    ? super._parseText(value, type, parameters, context)
                    : new Telephone(text);
        }
    }

    private final Phones phones;
    private final CardLimits limits;

    CardReader(Phones phones, CardLimits limits) {
        this.phones = phones;
        this.limits = limits;
    }

    /** @return nothing of it for a text that the library makes nothing of */
    VCard parsed(String text) throws UnreadableCard {
        try (VCardReader reader = new VCardReader(text, VCardVersion.V3_0)) {
            reader.getScribeIndex().register(PHONE);
            VCard card = reader.readNext();
            if (card == null) {
                throw new UnreadableCard("it holds no VCARD");
            }
            return card;
        } catch (IOException | RuntimeException | StackOverflowError broken) {
            throw new UnreadableCard("it breaks the rules of its format");
        }
    }

    ContactDetails details(VCard card) throws UnreadableCard {
        NameParts parts = parts(card.getStructuredName());
        Organization organisation = card.getOrganization();
        List<String> company = organisation == null ? List.of() : organisation.getValues();
        SortedMap<String, String> mails = mails(card.getEmails());
        String name = first(
                text(card.getFormattedName()),
                Stream.of(parts.prefix(), parts.given(), parts.additional(), parts.family(), parts.suffix())
                        .filter(p -> !p.isEmpty())
                        .collect(Collectors.joining(" ")),
                company.isEmpty() ? "" : line(company.get(0)),
                mails.isEmpty() ? "" : mails.firstKey());
        return new ContactDetails(
                name,
                parts,
                company.isEmpty() ? "" : line(company.get(0)),
                company.stream()
                        .skip(1)
                        .map(CardReader::line)
                        .filter(u -> !u.isEmpty())
                        .collect(Collectors.joining(";")),
                card.getTitles().isEmpty() ? "" : text(card.getTitles().get(0)),
                card.getRoles().isEmpty() ? "" : text(card.getRoles().get(0)),
                mails,
                phones(card.getTelephoneNumbers()),
                places(card.getAddresses()),
                urls(card.getUrls()),
                birthday(card.getBirthday()),
                bounded(card.getNotes().stream()
                        .map(n -> Objects.requireNonNullElse(n.getValue(), "")
                                .replace("\r\n", "\n")
                                .strip())
                        .filter(n -> !n.isEmpty())
                        .collect(Collectors.joining("\n"))),
                categories(card.getCategoriesList()));
    }

    private static String first(String... choices) {
        return Stream.of(choices).filter(c -> !c.isEmpty()).findFirst().orElse("");
    }

    private static String text(@Nullable TextProperty property) {
        return property == null ? "" : line(property.getValue());
    }

    /** One line, whatever stands in it. */
    private static String line(@Nullable String value) {
        if (value == null) {
            return "";
        }
        return (isLine(value) ? value : BLANKS.matcher(value).replaceAll(" ")).strip();
    }

    /** Nearly all are. */
    private static boolean isLine(String value) {
        boolean blank = false;
        for (int i = 0; i < value.length(); i++) {
            char c = value.charAt(i);
            if (c < ' ' || c == DELETE || (c == ' ' && blank)) {
                return false;
            }
            blank = c == ' ';
        }
        return true;
    }

    private String bounded(String value) throws UnreadableCard {
        if (value.length() > limits.value()) {
            throw new UnreadableCard("one of its values is longer than " + limits.value() + " characters");
        }
        return value;
    }

    private static NameParts parts(@Nullable StructuredName name) {
        return name == null
                ? NameParts.NONE
                : new NameParts(
                        line(name.getFamily()),
                        line(name.getGiven()),
                        line(String.join(" ", name.getAdditionalNames())),
                        line(String.join(" ", name.getPrefixes())),
                        line(String.join(" ", name.getSuffixes())));
    }

    private static SortedMap<String, String> mails(List<Email> emails) {
        SortedMap<String, String> mails = new TreeMap<>();
        for (Email email : emails) {
            EmailAddress.parse(line(email.getValue()))
                    .ifPresent(a -> mails.putIfAbsent(
                            a.toString(), kind(types(email.getParameters().getTypes()))));
        }
        return mails;
    }

    private SortedMap<String, String> phones(List<Telephone> numbers) {
        SortedMap<String, String> all = new TreeMap<>();
        for (Telephone number : numbers) {
            String written = line(
                    number.getUri() == null ? number.getText() : number.getUri().getNumber());
            if (!written.isEmpty()) {
                all.putIfAbsent(
                        phone(written), kind(types(number.getParameters().getTypes())));
            }
        }
        return all;
    }

    private String phone(String written) {
        return phones.parse(written).map(PhoneNumber::toString).orElse(written);
    }

    private static SortedMap<String, String> places(List<Address> addresses) {
        SortedMap<String, String> places = new TreeMap<>();
        for (Address a : addresses) {
            List<String> street = Stream.of(a.getPoBoxes(), a.getExtendedAddresses(), a.getStreetAddresses())
                    .flatMap(Collection::stream)
                    .map(CardReader::line)
                    .filter(s -> !s.isEmpty())
                    .toList();
            String place = EnteredDetails.place(List.of(
                    String.join(", ", street),
                    line(a.getLocality()),
                    line(a.getRegion()),
                    line(a.getPostalCode()),
                    line(a.getCountry())));
            if (!place.equals(";;;;")) {
                places.putIfAbsent(place, kind(types(a.getParameters().getTypes())));
            }
        }
        return places;
    }

    private static SortedMap<String, String> urls(List<Url> urls) {
        SortedMap<String, String> all = new TreeMap<>();
        for (Url url : urls) {
            String value = line(url.getValue());
            if (!value.isEmpty()) {
                all.putIfAbsent(value, kind(types(url.getParameters().getTypes())));
            }
        }
        return all;
    }

    private static Set<String> types(List<String> types) {
        return types.stream()
                .flatMap(t -> Stream.of(t.split(",", -1)))
                .map(t -> t.strip().toLowerCase(Locale.ROOT))
                .collect(Collectors.toSet());
    }

    private static String kind(Set<String> types) {
        return KINDS.stream().filter(types::contains).findFirst().orElse("");
    }

    private static String birthday(@Nullable Birthday birthday) {
        if (birthday == null) {
            return "";
        }
        if (birthday.getDate() != null) {
            // whatever time of day some programs give it
            return birthday.getDate().toString().replaceFirst("T.*", "");
        }
        return birthday.getPartialDate() == null
                ? line(birthday.getText())
                : birthday.getPartialDate().toISO8601(true);
    }

    private static SortedSet<String> categories(List<Categories> lists) {
        return lists.stream()
                .flatMap(list -> list.getValues().stream())
                .map(CardReader::line)
                .filter(c -> !c.isEmpty())
                .collect(Collectors.toCollection(TreeSet::new));
    }
}
