package jandrel.store.directory;

import jandrel.core.address.DomainName;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.store.directory.DirectoryMapper.AccountState;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.Reopener;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

@Component
class AccountImport extends KindImport<AccountRow, AccountState> {
    private static final Set<String> COLUMNS = Set.of("name", "domains", "owner", "part_of");

    AccountImport(DirectoryMapper mapper, Reopener reopened) {
        super(mapper, reopened);
    }

    @Override
    Plan<AccountRow, AccountState> plan(List<AccountRow> all, Hand hand) {
        List<AccountRow> rows = FileImport.butFor(all, mapper.mergedAccounts(FileImport.keys(all, AccountRow::key)));
        Map<String, AccountState> known = known(rows);
        FileImport<AccountState> in = new FileImport<>(known);
        Map<String, UUID> people = FileImport.refs(mapper.personIds(FileImport.keys(rows, AccountRow::owner)));
        Map<String, UUID> above = FileImport.refs(mapper.accountsNamed(FileImport.keys(rows, AccountRow::partOf)));
        // an account may be a part of one that stands further down in the same file
        rows.forEach(row -> above.computeIfAbsent(row.key(), in::id));
        Map<String, String> taken = new HashMap<>();
        String[] domainKeys = rows.stream()
                .flatMap(r -> r.domains().stream())
                .map(DomainName::key)
                .toArray(String[]::new);
        in.takenElsewhere(mapper.domainOwners(domainKeys), FileImport.keys(rows, AccountRow::key), taken);
        for (AccountRow row : rows) {
            for (DomainName domain : row.domains()) {
                in.single(taken, domain.key(), row.key(), row.line(), "domains", "an account");
            }
            UUID owner = in.reference(people, row.owner(), row.line(), "owner", "person");
            String[] domains = row.domains().stream()
                    .map(DomainName::key)
                    .sorted()
                    .distinct()
                    .toArray(String[]::new);
            UUID parent = in.reference(above, row.partOf(), row.line(), "part_of", "account");
            UUID id = Objects.requireNonNull(above.get(row.key()));
            if (id.equals(parent) && !row.partOf().equals(row.key())) {
                // the one above became a part of this one
                parent = null;
            }
            in.add(
                    hand.settled(
                            new AccountState(id, row.key(), row.name(), owner, parent, domains, new String[0]),
                            known.get(row.key()),
                            COLUMNS),
                    hand.isSomebodys());
        }
        return new Plan<>(rows, known, in, hand);
    }

    @Override
    Set<String> write(Plan<AccountRow, AccountState> plan) throws ImportRejected {
        FileImport<AccountState> in = plan.in();
        UUID[] ids = in.ids(AccountState::id);
        Set<String> touched = new HashSet<>(mapper.keysOfAccounts(ids));
        in.changed().forEach(a -> touched.addAll(List.of(a.domains())));
        mapper.writeAccounts(in.changed());
        mapper.clearDomains(ids);
        FileImport.Pairs pairs = FileImport.Pairs.of(in.changed(), AccountState::id, AccountState::domains);
        mapper.addDomains(pairs.texts(), pairs.ids());
        Optional<String> circle = mapper.partOfItself(ids);
        if (circle.isPresent()) {
            throw new ImportRejected(
                    List.of(new ImportProblem(0, "part_of", "“" + circle.get() + "” would be a part of itself")));
        }
        touched.addAll(mapper.keysOfAccounts(ids));
        return touched;
    }

    @Override
    void keep(ImportChanges changes, UUID file, UUID[] known) {
        changes.keepAccounts(file, known);
    }

    @Override
    List<AccountState> before(ImportChanges changes, UUID file, UUID[] records) {
        return changes.accountsBefore(file, records);
    }

    @Override
    List<AccountState> now(String[] keys) {
        return mapper.accounts(keys);
    }
}
