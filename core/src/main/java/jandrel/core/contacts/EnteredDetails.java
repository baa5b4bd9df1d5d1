package jandrel.core.contacts;

import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.reconcile.Base;
import jandrel.core.reconcile.Part.Combined;
import java.net.URI;
import java.net.URISyntaxException;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.MonthDay;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;

/**
 * What somebody enters of a contact besides the directory's columns. Only what they changed counts, so that two people who enter different
 * things do not undo each other.
 *
 * @param details all that is known of the contact then
 * @param overtaken what they changed, and somebody else did meanwhile, to another value
 */
public record EnteredDetails(ContactDetails details, Set<ContactField> overtaken) {
    /** What is entered so; of mail addresses and telephones their kinds alone, as the directory has columns for them. */
    public static final List<ContactField> FIELDS = List.of(
            ContactField.PARTS,
            ContactField.UNIT,
            ContactField.ROLE,
            ContactField.MAILS,
            ContactField.PHONES,
            ContactField.PLACES,
            ContactField.URLS,
            ContactField.BIRTHDAY,
            ContactField.NOTE,
            ContactField.CATEGORIES);

    /** Of a place, with semicolons between. */
    private static final int PLACE_PARTS = 5;

    private static final Set<String> KINDS = Set.of("", "work", "home", "cell", "fax");
    private static final int LONGEST_LINE = 200;
    private static final int LONGEST_URL = 2_000;
    private static final int LONGEST_NOTE = 10_000;
    private static final int MOST_MEMBERS = 50;
    private static final String NO_DAY = "It is written as 1980-04-02, or --04-02 without the year.";

    public EnteredDetails {
        overtaken = Set.copyOf(overtaken);
    }

    /**
     * @param now what is known of the contact
     * @param seen what they changed it from, {@linkplain #tidied tidied} as what they want
     * @param wanted what they changed it to
     * @param over what they put theirs in place of, though somebody else changed it meanwhile
     */
    public static EnteredDetails of(
            ContactDetails now, ContactDetails seen, ContactDetails wanted, Set<ContactField> over) {
        // what a card says may be laid out otherwise than what is typed
        ContactDetails stands = tidied(now);
        ContactDetails merged = now;
        Set<ContactField> overtaken = EnumSet.noneOf(ContactField.class);
        for (ContactField field : FIELDS) {
            Combined<ContactDetails> combined = field.combine(new Base<>(seen, seen), now, wanted, false);
            Object value = field.of(wanted);
            boolean clash = combined != null
                    ? combined.clash()
                    : !value.equals(field.of(seen))
                            && !field.of(stands).equals(field.of(seen))
                            && !field.of(stands).equals(value);
            if (clash && !over.contains(field)) {
                overtaken.add(field);
            }
            if (combined != null) {
                merged = field.put(merged, combined.value());
            } else if (!value.equals(field.of(seen))) {
                merged = field.put(merged, wanted);
            }
        }
        // the addresses and numbers that it has, whatever was entered
        merged = ContactField.MAILS.put(merged, ContactField.MAILS.only(kinds(now.mails(), merged.mails())));
        merged = ContactField.PHONES.put(merged, ContactField.PHONES.only(kinds(now.phones(), merged.phones())));
        return new EnteredDetails(merged, overtaken);
    }

    private static SortedMap<String, String> kinds(SortedMap<String, String> now, SortedMap<String, String> entered) {
        TreeMap<String, String> kinds = new TreeMap<>(now);
        kinds.replaceAll((member, kind) -> entered.getOrDefault(member, kind));
        return kinds;
    }

    /** What was typed, as it is kept: texts of one line without blanks around them, and nothing that is empty. */
    public static ContactDetails tidied(ContactDetails typed) {
        NameParts p = typed.parts();
        return new ContactDetails(
                "",
                new NameParts(
                        line(p.family()), line(p.given()), line(p.additional()), line(p.prefix()), line(p.suffix())),
                "",
                line(typed.unit()),
                "",
                line(typed.role()),
                typed.mails(),
                typed.phones(),
                lines(typed.places(), EnteredDetails::tidiedPlace),
                lines(typed.urls(), EnteredDetails::line),
                line(typed.birthday()),
                typed.note()
                        .replace("\r\n", "\n")
                        .replace('\r', '\n')
                        .replaceAll("[\\p{Cntrl}&&[^\n\t]]", "")
                        .strip(),
                typed.categories().stream()
                        .map(EnteredDetails::line)
                        .filter(c -> !c.isEmpty())
                        .collect(Collectors.toCollection(TreeSet::new)));
    }

    private static SortedMap<String, String> lines(SortedMap<String, String> members, UnaryOperator<String> as) {
        TreeMap<String, String> lines = new TreeMap<>();
        members.forEach((member, kind) -> lines.put(as.apply(member), kind));
        lines.remove("");
        return lines;
    }

    /** On one line, with one blank where there were several. */
    public static String line(String text) {
        return text.replaceAll("[\\s\\p{Cntrl}]+", " ").strip();
    }

    private static String tidiedPlace(String place) {
        String tidy = place(parts(place).stream().map(EnteredDetails::line).toList());
        return tidy.replace(";", "").isEmpty() ? "" : tidy;
    }

    /** @param parts street, town, region, code and country */
    public static String place(List<String> parts) {
        return parts.stream().map(part -> part.replace(';', ',')).collect(Collectors.joining(";"));
    }

    /** The parts of a place: street, town, region, code and country. */
    public static List<String> parts(String place) {
        List<String> parts = new ArrayList<>(List.of(place.split(";", PLACE_PARTS)));
        while (parts.size() < PLACE_PARTS) {
            parts.add("");
        }
        return parts;
    }

    /**
     * Why some of it cannot be kept, by what is wrong; empty where all can. What stood there before is asked nothing.
     *
     * @param seen what it was changed from
     * @param wanted {@linkplain #tidied tidied}
     */
    public static Map<ContactField, String> problems(ContactDetails seen, ContactDetails wanted) {
        Map<ContactField, String> problems = new LinkedHashMap<>();
        for (ContactField field : FIELDS) {
            String problem = field.of(seen).equals(field.of(wanted)) ? "" : problem(field, seen, wanted);
            if (!problem.isEmpty()) {
                problems.put(field, problem);
            }
        }
        return problems;
    }

    private static String problem(ContactField field, ContactDetails seen, ContactDetails wanted) {
        NameParts p = wanted.parts();
        return switch (field) {
            case PARTS -> tooLong(List.of(p.family(), p.given(), p.additional(), p.prefix(), p.suffix()));
            case UNIT -> tooLong(List.of(wanted.unit()));
            case ROLE -> tooLong(List.of(wanted.role()));
            case MAILS -> members(seen.mails(), wanted.mails(), LONGEST_LINE);
            case PHONES -> members(seen.phones(), wanted.phones(), LONGEST_LINE);
            case PLACES -> members(seen.places(), wanted.places(), PLACE_PARTS * LONGEST_LINE);
            case URLS -> urls(seen.urls(), wanted.urls());
            case BIRTHDAY -> birthday(wanted.birthday());
            case NOTE ->
                wanted.note().length() > LONGEST_NOTE
                        ? String.format("It may have %,d characters at most.", LONGEST_NOTE)
                        : "";
            case CATEGORIES -> wanted.categories().size() > MOST_MEMBERS ? tooMany() : tooLong(wanted.categories());
            default -> "";
        };
    }

    private static String tooMany() {
        return "There may be " + MOST_MEMBERS + " at most.";
    }

    private static String tooLong(Collection<String> texts) {
        return texts.stream().anyMatch(t -> t.length() > LONGEST_LINE)
                ? "It may have " + LONGEST_LINE + " characters at most."
                : "";
    }

    private static String members(SortedMap<String, String> seen, SortedMap<String, String> wanted, int longest) {
        if (wanted.size() > Math.max(MOST_MEMBERS, seen.size())) {
            return tooMany();
        }
        for (Map.Entry<String, String> member : wanted.entrySet()) {
            boolean isNew = !seen.containsKey(member.getKey());
            if (isNew && member.getKey().length() > longest) {
                return "Each may have " + longest + " characters at most.";
            }
            if (!KINDS.contains(member.getValue())) {
                return "There is no kind “" + member.getValue() + "”: it is work, home, cell, fax or none.";
            }
        }
        return "";
    }

    private static String urls(SortedMap<String, String> seen, SortedMap<String, String> wanted) {
        for (String url : wanted.keySet()) {
            if (!seen.containsKey(url) && !isOfTheWeb(url)) {
                return "“" + url + "” is no address of the web: it begins with https:// or http://.";
            }
        }
        return members(seen, wanted, LONGEST_URL);
    }

    private static boolean isOfTheWeb(String url) {
        try {
            URI uri = new URI(url);
            return uri.getHost() != null
                    && ("https".equalsIgnoreCase(uri.getScheme()) || "http".equalsIgnoreCase(uri.getScheme()));
        } catch (URISyntaxException unreadable) {
            return false;
        }
    }

    /** ISO 8601; RFC 6350 §4.3.1 has it without a year, too. */
    private static String birthday(String day) {
        try {
            boolean fits = day.isEmpty()
                    || (day.startsWith("--")
                                    ? MonthDay.parse(day).toString()
                                    : LocalDate.parse(day).toString())
                            .equals(day);
            return fits ? "" : NO_DAY;
        } catch (DateTimeException unreadable) {
            return NO_DAY;
        }
    }
}
