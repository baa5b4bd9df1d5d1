package jandrel.formats.table;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.ImportRejected;
import jandrel.formats.mail.Phones;
import java.io.Reader;
import java.util.List;
import java.util.Set;
import java.util.function.Function;

/**
 * Reads the directory's files: CSV by RFC 4180 in UTF-8 with a header line. A file is taken whole or not at all.
 */
public final class DirectoryFiles {
    private DirectoryFiles() {}

    public static List<AccountRow> accounts(Reader file) throws ImportRejected {
        return read(
                file,
                List.of("key", "name"),
                Set.of("domains", "owner", "part_of"),
                cells -> new AccountRow(
                        cells.line(),
                        cells.key(),
                        cells.required("name"),
                        cells.list("domains", "a domain name", DomainName::parse).stream()
                                .filter(domain -> isOwnable(cells, domain))
                                .toList(),
                        cells.text("owner"),
                        cells.text("part_of")));
    }

    public static List<LeadRow> leads(Reader file) throws ImportRejected {
        return read(
                file,
                List.of("key", "name", "addresses"),
                Set.of("company", "owner"),
                cells -> new LeadRow(
                        cells.line(),
                        cells.key(),
                        cells.required("name"),
                        cells.list("addresses", "a mail address", EmailAddress::parse),
                        cells.text("company"),
                        cells.text("owner")));
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

    public static List<ContactRow> contacts(Reader file, Phones phones) throws ImportRejected {
        return read(
                file,
                List.of("key", "name"),
                Set.of("addresses", "phones", "account", "title", "last_active", "since"),
                cells -> new ContactRow(
                        cells.line(),
                        cells.key(),
                        cells.required("name"),
                        cells.list("addresses", "a mail address", EmailAddress::parse),
                        cells.spacedList("phones", "a telephone number", phones::parse),
                        cells.text("account"),
                        cells.text("title"),
                        cells.date("last_active"),
                        cells.date("since")));
    }

    public static List<OpportunityRow> opportunities(Reader file) throws ImportRejected {
        return read(
                file,
                List.of("key", "name", "account"),
                Set.of("stage", "state", "value", "currency", "owner", "contacts"),
                cells -> new OpportunityRow(
                        cells.line(),
                        cells.key(),
                        cells.required("name"),
                        cells.required("account"),
                        cells.text("stage"),
                        cells.oneOf("state", OpportunityState.class, OpportunityState.OPEN),
                        cells.amount("value"),
                        cells.currency("currency"),
                        cells.text("owner"),
                        cells.list("contacts", "a key", java.util.Optional::of)));
    }

    public static List<PersonRow> people(Reader file) throws ImportRejected {
        return read(
                file,
                List.of("key", "name", "addresses"),
                Set.of("team", "role"),
                cells -> new PersonRow(
                        cells.line(),
                        cells.key(),
                        cells.required("name"),
                        cells.list("addresses", "a mail address", EmailAddress::parse),
                        cells.text("team"),
                        cells.text("role")));
    }

    private static <R> List<R> read(Reader file, List<String> required, Set<String> optional, Function<Cells, R> row)
            throws ImportRejected {
        return new CsvTable(required, optional).read(file, row);
    }
}
