package jandrel.store.directory;

import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.DirectoryRows.Row;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.RecordKind;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.RulesLock;
import jandrel.store.kernel.StaleVersion;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Takes in the directory's rows, from files and from people: each whole or not at all. Rows are matched by their key; what is not among
 * them stays. Only items that carry an address or domain of what really changed are decided again.
 */
@Component
public class Directory {
    private final AccountImport accounts;
    private final ContactImport contacts;
    private final LeadImport leads;
    private final OpportunityImport opportunities;
    private final DirectoryVersions versions;
    private final RulesLock rules;
    private final ImportChanges changes;

    Directory(
            AccountImport accounts,
            ContactImport contacts,
            LeadImport leads,
            OpportunityImport opportunities,
            DirectoryVersions versions,
            RulesLock rules,
            ImportChanges changes) {
        this.changes = changes;
        this.accounts = accounts;
        this.contacts = contacts;
        this.leads = leads;
        this.opportunities = opportunities;
        this.versions = versions;
        this.rules = rules;
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome accounts(List<AccountRow> rows) throws ImportRejected {
        rules.change();
        return accounts.take(rows, Hand.FILE);
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome leads(List<LeadRow> rows) throws ImportRejected {
        rules.change();
        return leads.take(rows, Hand.FILE);
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome contacts(List<ContactRow> rows) throws ImportRejected {
        rules.change();
        return contacts.take(rows, Hand.FILE);
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome opportunities(List<OpportunityRow> rows) throws ImportRejected {
        rules.change();
        return opportunities.take(rows, Hand.FILE);
    }

    /**
     * What somebody changes of one record.
     *
     * @param version that they saw; 0 for a record that is new
     * @param columns that they change, as the file names them
     * @param marks the columns that no file changes afterwards; null for those of before and the changed ones
     * @param archived whether it is out of the lists; null for as it is
     */
    public record Edit(
            UUID id,
            String key,
            long version,
            Set<String> columns,
            @Nullable Set<String> marks,
            @Nullable Boolean archived) {}

    /**
     * Changes records by hand. Of each row only the columns that its edit names count.
     *
     * @throws StaleVersion if somebody changed one of them since it was read
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome change(RecordKind kind, List<? extends Row> rows, List<Edit> edits)
            throws ImportRejected {
        rules.change();
        Map<UUID, Long> seen = edits.stream().collect(Collectors.toMap(Edit::id, Edit::version));
        UUID[] ids = edits.stream().map(Edit::id).sorted().toArray(UUID[]::new);
        List<DirectoryVersions.Version> now = versions.locked(kind, ids);
        if (now.size() != ids.length
                || now.stream().anyMatch(v -> !Long.valueOf(v.version()).equals(seen.get(v.id())))) {
            throw new StaleVersion();
        }
        Hand hand = new Hand(
                edits.stream().collect(Collectors.toMap(Edit::key, Edit::columns)),
                edits.stream()
                        .filter(e -> e.marks() != null)
                        .collect(Collectors.toMap(Edit::key, e -> java.util.Objects.requireNonNull(e.marks()))));
        FileImport.Outcome outcome = of(kind).take(cast(rows), hand);
        for (boolean archived : new boolean[] {true, false}) {
            UUID[] these = edits.stream()
                    .filter(e -> e.archived() != null && e.archived() == archived)
                    .map(Edit::id)
                    .toArray(UUID[]::new);
            versions.archive(kind, these, archived);
        }
        return outcome;
    }

    /** In how many address books these contacts stand. */
    public int books(Collection<UUID> contacts) {
        return contacts.isEmpty() ? 0 : versions.books(contacts.toArray(UUID[]::new));
    }

    /** What rows of a file would change. Changes nothing, and need not wait for anybody. */
    @Transactional(readOnly = true)
    public FileImport.Fitting preview(RecordKind kind, List<? extends Row> rows) {
        return of(kind).fitting(cast(rows));
    }

    /**
     * Takes those of a file's rows that fit.
     *
     * @param file by which {@link ImportUndo} knows it
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Taken takeFitting(RecordKind kind, List<? extends Row> rows, UUID file) throws ImportRejected {
        rules.change();
        return of(kind).takeFitting(cast(rows), changes, file);
    }

    /** What takes in rows of a kind; whoever gives it rows gives it that kind's. */
    KindImport<Row, ?> of(RecordKind kind) {
        return any(
                switch (kind) {
                    case ACCOUNT -> accounts;
                    case CONTACT -> contacts;
                    case LEAD -> leads;
                    case OPPORTUNITY -> opportunities;
                });
    }

    @SuppressWarnings("unchecked")
    private static KindImport<Row, ?> any(KindImport<? extends Row, ?> one) {
        return (KindImport<Row, ?>) one;
    }

    @SuppressWarnings("unchecked")
    private static List<Row> cast(List<? extends Row> rows) {
        return (List<Row>) rows;
    }
}
