package jandrel.core.directory;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryFile.CellKind;
import jandrel.core.directory.DirectoryFile.Column;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Which columns of a file from elsewhere are which of ours: by what their headings say, and where that says nothing, by what stands in
 * them. Several of theirs may be one of ours, such as a first and a last name.
 */
public final class ColumnMatch {
    private static final Pattern NOT_LETTERS = Pattern.compile("[^\\p{L}\\p{N}]+");
    private static final Pattern DAY = Pattern.compile("\\d{4}-\\d{2}-\\d{2}");
    private static final Pattern PHONE = Pattern.compile("\\+[\\d ()/.-]{6,24}");
    /** Ours that several of theirs may make up. */
    private static final Set<String> JOINED = Set.of("name", "addresses", "phones", "domains");
    /** Headings as people write them, without anything but letters and digits; the likeliest meaning of each. */
    private static final Map<String, Set<String>> HEADINGS = Map.ofEntries(
            Map.entry(
                    "key",
                    Set.of("key", "id", "recordid", "externalid", "number", "no", "nr", "reference", "ref", "code")),
            Map.entry(
                    "name",
                    Set.of(
                            "name",
                            "fullname",
                            "firstname",
                            "lastname",
                            "givenname",
                            "familyname",
                            "surname",
                            "middlename",
                            "displayname",
                            "vorname",
                            "nachname",
                            "fornavn",
                            "etternavn",
                            "subject")),
            Map.entry(
                    "addresses",
                    Set.of(
                            "addresses",
                            "address",
                            "email",
                            "emails",
                            "emailaddress",
                            "emailaddresses",
                            "mail",
                            "mailaddress",
                            "email1",
                            "email2",
                            "email3",
                            "otheremail",
                            "workemail",
                            "homeemail",
                            "secondaryemail",
                            "primaryemail",
                            "epost")),
            Map.entry(
                    "domains",
                    Set.of(
                            "domains",
                            "domain",
                            "website",
                            "web",
                            "url",
                            "homepage",
                            "companydomain",
                            "site",
                            "websites")),
            Map.entry(
                    "phones",
                    Set.of(
                            "phones",
                            "phone",
                            "phonenumber",
                            "telephone",
                            "tel",
                            "mobile",
                            "mobilephone",
                            "cell",
                            "cellphone",
                            "workphone",
                            "businessphone",
                            "homephone",
                            "otherphone",
                            "directline",
                            "telefon",
                            "mobil")),
            Map.entry(
                    "owner",
                    Set.of(
                            "owner",
                            "accountowner",
                            "leadowner",
                            "dealowner",
                            "opportunityowner",
                            "recordowner",
                            "salesrep",
                            "rep",
                            "assignedto",
                            "responsible",
                            "accountmanager",
                            "owneremail",
                            "salesperson")),
            Map.entry(
                    "part_of",
                    Set.of("partof", "parent", "parentaccount", "parentcompany", "group", "belongsto", "headquarters")),
            Map.entry(
                    "account",
                    Set.of(
                            "account",
                            "accountid",
                            "accountname",
                            "accountkey",
                            "company",
                            "companyname",
                            "organisation",
                            "organization",
                            "customer",
                            "employer",
                            "firma",
                            "client")),
            Map.entry(
                    "company",
                    Set.of("company", "companyname", "organisation", "organization", "account", "employer", "firma")),
            Map.entry("title", Set.of("title", "jobtitle", "position", "role", "jobrole", "function", "stilling")),
            Map.entry(
                    "last_active",
                    Set.of(
                            "lastactive",
                            "lastactivity",
                            "lastactivitydate",
                            "lastcontacted",
                            "lastcontact",
                            "lastseen")),
            Map.entry("since", Set.of("since", "theresince", "startdate", "joined")),
            Map.entry("stage", Set.of("stage", "phase", "salesstage", "dealstage", "pipelinestage", "step")),
            Map.entry("state", Set.of("state", "status", "outcome", "dealstatus")),
            Map.entry(
                    "value", Set.of("value", "amount", "dealvalue", "dealamount", "price", "sum", "revenue", "total")),
            Map.entry("period", Set.of("period", "billingperiod", "frequency")),
            Map.entry("channel", Set.of("channel", "source", "origin")),
            Map.entry("currency", Set.of("currency", "currencycode", "currencyiso")),
            Map.entry("contacts", Set.of("contacts", "contact", "contactkeys", "contactids", "primarycontact")),
            Map.entry("team", Set.of("team", "department", "unit", "region", "office")),
            Map.entry("role", Set.of("role", "jobtitle", "title", "position", "function")));

    /** What is the name of a row of these, and of something else in other files. */
    private static final Map<DirectoryFile, Set<String>> NAMES = Map.of(
            DirectoryFile.ACCOUNTS,
                    Set.of(
                            "accountname",
                            "companyname",
                            "company",
                            "account",
                            "customer",
                            "organisation",
                            "organization"),
            DirectoryFile.CONTACTS, Set.of("contactname", "contact"),
            DirectoryFile.LEADS, Set.of("leadname", "lead"),
            DirectoryFile.OPPORTUNITIES, Set.of("dealname", "opportunityname", "deal", "opportunity"));

    private ColumnMatch() {}

    /**
     * @param own fields of contacts that the company made for itself: by their key or their name
     * @param headings of the file's columns, in order
     * @param samples of each column some of its cells
     * @return for each the name of ours; empty for none
     */
    public static List<String> match(
            DirectoryFile file, OwnFields own, List<String> headings, List<List<String>> samples) {
        List<String> ours = new ArrayList<>(headings.stream().map(h -> "").toList());
        Set<String> taken = new HashSet<>();
        List<String> folded = headings.stream().map(ColumnMatch::folded).toList();
        // what is called as ours is, before what is called alike
        for (Column column : own.columns(file)) {
            take(ours, taken, column.name(), folded.indexOf(folded(column.name())));
            own.called(column.name())
                    .ifPresent(f -> take(ours, taken, column.name(), folded.indexOf(folded(f.name()))));
        }
        for (Column column : file.columns()) {
            Set<String> known = HEADINGS.getOrDefault(column.name(), Set.of());
            for (int i = 0; i < folded.size(); i++) {
                int at = i;
                boolean itsId = column.name().equals("key")
                        && file.kind()
                                .filter(k -> folded.get(at).equals(k.word() + "id"))
                                .isPresent();
                boolean named = itsId
                        || known.contains(folded.get(i))
                        || (column.name().equals("name")
                                && NAMES.getOrDefault(file, Set.of()).contains(folded.get(i)));
                if (ours.get(i).isEmpty() && named && fits(column.type(), samples.get(i))) {
                    take(ours, taken, column.name(), i);
                }
            }
        }
        for (Column column : file.columns()) {
            for (int i = 0; i < folded.size() && tells(column.type()); i++) {
                if (ours.get(i).isEmpty()
                        && !taken.contains(column.name())
                        && looksLike(column.type(), samples.get(i))) {
                    take(ours, taken, column.name(), i);
                }
            }
        }
        return List.copyOf(ours);
    }

    private static void take(List<String> ours, Set<String> taken, String name, int at) {
        if (at >= 0 && ours.get(at).isEmpty() && (taken.add(name) || JOINED.contains(name))) {
            ours.set(at, name);
        }
    }

    static String folded(String heading) {
        return NOT_LETTERS.matcher(heading.toLowerCase(Locale.ROOT)).replaceAll("");
    }

    /** Kinds of cells that say by themselves what they are. */
    private static boolean tells(CellKind type) {
        return type == CellKind.ADDRESSES
                || type == CellKind.DOMAINS
                || type == CellKind.PHONES
                || type == CellKind.DAY;
    }

    /** A heading may mean two things: an “address” with streets in it is none of ours. */
    private static boolean fits(CellKind type, List<String> cells) {
        List<String> filled = cells.stream().filter(c -> !c.isBlank()).toList();
        return filled.isEmpty()
                || !tells(type)
                || type == CellKind.DAY
                || type == CellKind.PHONES
                || looksLike(type, filled);
    }

    private static boolean looksLike(CellKind kind, List<String> cells) {
        List<String> filled = cells.stream().filter(c -> !c.isBlank()).toList();
        long like = filled.stream().filter(cell -> isLike(kind, cell)).count();
        // a file has its slips, and most of a column is what it is
        return !filled.isEmpty() && 2 * like >= filled.size();
    }

    private static boolean isLike(CellKind kind, String cell) {
        return switch (kind) {
            case ADDRESSES -> EmailAddress.parse(first(cell)).isPresent();
            case DOMAINS ->
                first(cell).contains(".") && DomainName.parse(bare(first(cell))).isPresent();
            case PHONES -> PHONE.matcher(cell.strip()).matches();
            case DAY -> DAY.matcher(cell.strip()).matches();
            default -> false;
        };
    }

    private static String first(String cell) {
        return cell.strip().split("[;,\\s]+", 2)[0];
    }

    /** The domain of a web address; what is none is given back. */
    public static String bare(String address) {
        String bare = address.strip().replaceFirst("(?i)^https?://", "").replaceFirst("(?i)^www\\.", "");
        int end = bare.indexOf('/');
        return end < 0 ? bare : bare.substring(0, end);
    }
}
