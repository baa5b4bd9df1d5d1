package jandrel.formats.table;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.DirectoryRows;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.DirectoryRows.OpportunityWas;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.DirectoryRows.Row;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.OwnFields;
import jandrel.formats.mail.Phones;
import java.io.IOException;
import java.io.Reader;
import java.io.StringReader;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;

/**
 * Reads the directory's files: CSV by RFC 4180 in UTF-8 with a header line. A file is taken whole or not at all.
 */
public final class DirectoryFiles {
    /** Of a file that is looked at first: so many lines that do not fit are enough to see what is wrong with it. */
    private static final int MOST_PROBLEMS = 5_000;

    private DirectoryFiles() {}

    private static final CSVFormat OUT =
            CSVFormat.RFC4180.builder().setRecordSeparator("\r\n").get();

    /** All of it, or nothing. */
    public static List<? extends Row> read(DirectoryFile kind, Reader file, Phones phones, OwnFields own)
            throws ImportRejected {
        return table(kind, own).read(file, row(kind, phones, own));
    }

    /**
     * The lines that fit, and what is wrong with the others.
     *
     * @throws ImportRejected if its first line does not name the columns
     */
    public static Parsed<? extends Row> parse(DirectoryFile kind, Reader file, Phones phones, OwnFields own)
            throws ImportRejected {
        return table(kind, own).parse(file, row(kind, phones, own), MOST_PROBLEMS);
    }

    /** As a file: what people type is read as files are. */
    public static Reader written(List<String> columns, Iterable<? extends Map<String, String>> lines) {
        StringWriter text = new StringWriter();
        try (CSVPrinter out = new CSVPrinter(text, OUT)) {
            out.printRecord(columns);
            for (Map<String, String> line : lines) {
                out.printRecord(columns.stream().map(c -> line.getOrDefault(c, "")));
            }
        } catch (IOException impossible) {
            throw new UncheckedIOException(impossible);
        }
        return new StringReader(text.toString());
    }

    public static List<AccountRow> accounts(Reader file) throws ImportRejected {
        return table(DirectoryFile.ACCOUNTS, OwnFields.NONE).read(file, DirectoryFiles::account);
    }

    public static List<LeadRow> leads(Reader file) throws ImportRejected {
        return table(DirectoryFile.LEADS, OwnFields.NONE).read(file, DirectoryFiles::lead);
    }

    public static List<ContactRow> contacts(Reader file, Phones phones, OwnFields own) throws ImportRejected {
        return table(DirectoryFile.CONTACTS, own).read(file, cells -> contact(cells, phones, own));
    }

    public static List<OpportunityRow> opportunities(Reader file) throws ImportRejected {
        return table(DirectoryFile.OPPORTUNITIES, OwnFields.NONE).read(file, DirectoryFiles::opportunity);
    }

    public static List<PersonRow> people(Reader file) throws ImportRejected {
        return table(DirectoryFile.PEOPLE, OwnFields.NONE).read(file, DirectoryFiles::person);
    }

    /** How opportunities were before they came here. */
    public static List<OpportunityWas> history(Reader file) throws ImportRejected {
        CsvTable table = new CsvTable(
                List.of("opportunity", "at", "state"),
                Set.of("stage", "value", "currency", "period", "channel", "owner"));
        return table.read(
                file,
                cells -> new OpportunityWas(
                        cells.line(),
                        cells.required("opportunity"),
                        cells.moment("at"),
                        cells.text("stage"),
                        cells.oneOf("state", OpportunityState.class, OpportunityState.OPEN),
                        cells.amount("value"),
                        cells.currency("currency"),
                        cells.oneOf("period", DirectoryRows.Period.class, DirectoryRows.Period.ONCE),
                        cells.text("channel"),
                        cells.text("owner")));
    }

    private static CsvTable table(DirectoryFile kind, OwnFields own) {
        Map<Boolean, List<String>> names = own.columns(kind).stream()
                .collect(Collectors.partitioningBy(
                        DirectoryFile.Column::required,
                        Collectors.mapping(DirectoryFile.Column::name, Collectors.toList())));
        return new CsvTable(
                Objects.requireNonNull(names.get(true)), Set.copyOf(Objects.requireNonNull(names.get(false))));
    }

    private static Function<Cells, Row> row(DirectoryFile kind, Phones phones, OwnFields own) {
        return switch (kind) {
            case PEOPLE -> DirectoryFiles::person;
            case ACCOUNTS -> DirectoryFiles::account;
            case CONTACTS -> cells -> contact(cells, phones, own);
            case LEADS -> DirectoryFiles::lead;
            case OPPORTUNITIES -> DirectoryFiles::opportunity;
        };
    }

    private static AccountRow account(Cells cells) {
        return new AccountRow(
                cells.line(),
                cells.key(),
                cells.required("name"),
                cells.list("domains", "a domain name", DomainName::parse).stream()
                        .filter(domain -> isOwnable(cells, domain))
                        .toList(),
                cells.text("owner"),
                cells.text("part_of"));
    }

    private static boolean isOwnable(Cells cells, DomainName domain) {
        if (domain.isPublicSuffix()) {
            cells.problem(
                    "domains",
                    "“" + domain + "” is a suffix that anybody registers names under, so it cannot be one account’s");
            return false;
        }
        return true;
    }

    private static LeadRow lead(Cells cells) {
        return new LeadRow(
                cells.line(),
                cells.key(),
                cells.required("name"),
                cells.list("addresses", "a mail address", EmailAddress::parse),
                cells.text("company"),
                cells.text("owner"));
    }

    private static ContactRow contact(Cells cells, Phones phones, OwnFields own) {
        return new ContactRow(
                cells.line(),
                cells.key(),
                cells.required("name"),
                cells.list("addresses", "a mail address", EmailAddress::parse),
                cells.spacedList("phones", "a telephone number", phones::parse),
                cells.text("account"),
                cells.text("title"),
                cells.date("last_active"),
                cells.date("since"),
                cells.own(own));
    }

    private static OpportunityRow opportunity(Cells cells) {
        return new OpportunityRow(
                cells.line(),
                cells.key(),
                cells.required("name"),
                cells.required("account"),
                cells.text("stage"),
                cells.oneOf("state", OpportunityState.class, OpportunityState.OPEN),
                cells.amount("value"),
                cells.currency("currency"),
                cells.oneOf("period", DirectoryRows.Period.class, DirectoryRows.Period.ONCE),
                cells.text("channel"),
                cells.text("owner"),
                cells.list("contacts", "a key", java.util.Optional::of));
    }

    private static PersonRow person(Cells cells) {
        return new PersonRow(
                cells.line(),
                cells.key(),
                cells.required("name"),
                cells.list("addresses", "a mail address", EmailAddress::parse),
                cells.text("team"),
                cells.text("role"));
    }
}
