package jandrel.store.directory;

import jandrel.core.address.DomainName;
import jandrel.core.decide.Reopened;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.store.directory.DirectoryMapper.AccountState;
import jandrel.store.directory.DirectoryMapper.ContactState;
import jandrel.store.directory.DirectoryMapper.LeadState;
import jandrel.store.directory.DirectoryMapper.OpportunityState;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Takes in the directory's files: each whole or not at all. Rows are matched by the file's own key; what is not in the file stays.
 * Only items that carry an address or domain of what really changed are decided again.
 */
@Component
public class Directory {
    private final DirectoryMapper mapper;
    private final Reopener reopened;
    private final RulesLock rules;
    private final ItemKeys keys;

    Directory(DirectoryMapper mapper, Reopener reopened, RulesLock rules, ItemKeys keys) {
        this.keys = keys;
        this.mapper = mapper;
        this.reopened = reopened;
        this.rules = rules;
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome accounts(List<AccountRow> rows) throws ImportRejected {
        rules.change();
        Map<String, AccountState> known =
                FileImport.byKey(mapper.accounts(FileImport.keys(rows, AccountRow::key)), AccountState::key);
        FileImport<AccountState> in = new FileImport<>(known);
        Map<String, UUID> people = FileImport.refs(mapper.personIds(FileImport.keys(rows, AccountRow::owner)));
        Map<String, UUID> above = FileImport.refs(mapper.accountIds(FileImport.keys(rows, AccountRow::partOf)));
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
            in.add(new AccountState(
                    Objects.requireNonNull(above.get(row.key())), row.key(), row.name(), owner, parent, domains));
        }
        in.stopAtProblems();
        Set<String> touched = new HashSet<>(mapper.keysOfAccounts(in.ids(AccountState::id)));
        in.changed().forEach(a -> touched.addAll(List.of(a.domains())));
        mapper.writeAccounts(in.changed());
        mapper.clearDomains(in.ids(AccountState::id));
        FileImport.Pairs pairs = FileImport.Pairs.of(in.changed(), AccountState::id, AccountState::domains);
        mapper.addDomains(pairs.texts(), pairs.ids());
        Optional<String> circle = mapper.partOfItself(in.ids(AccountState::id));
        if (circle.isPresent()) {
            throw new ImportRejected(
                    List.of(new ImportProblem(0, "part_of", "“" + circle.get() + "” would be a part of itself")));
        }
        touched.addAll(mapper.keysOfAccounts(in.ids(AccountState::id)));
        reopened.mark(Reopened.records(touched));
        return done(in);
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome leads(List<LeadRow> rows) throws ImportRejected {
        rules.change();
        Map<String, LeadState> known =
                FileImport.byKey(mapper.leads(FileImport.keys(rows, LeadRow::key)), LeadState::key);
        FileImport<LeadState> in = new FileImport<>(known);
        Map<String, UUID> people = FileImport.refs(mapper.personIds(FileImport.keys(rows, LeadRow::owner)));
        for (LeadRow row : rows) {
            UUID owner = in.reference(people, row.owner(), row.line(), "owner", "person");
            in.add(new LeadState(
                    in.id(row.key()), row.key(), row.name(), row.company(), owner, FileImport.texts(row.addresses())));
        }
        in.stopAtProblems();
        Set<String> touched = new HashSet<>();
        for (LeadState now : in.changed()) {
            touched.addAll(List.of(now.addresses()));
            if (known.containsKey(now.key())) {
                touched.addAll(List.of(known.get(now.key()).addresses()));
            }
        }
        mapper.writeLeads(in.changed());
        mapper.clearLeadAddresses(in.ids(LeadState::id));
        FileImport.Pairs pairs = FileImport.Pairs.of(in.changed(), LeadState::id, LeadState::addresses);
        mapper.addLeadAddresses(pairs.texts(), pairs.ids());
        reopened.mark(Reopened.records(touched));
        return done(in);
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome contacts(List<ContactRow> all) throws ImportRejected {
        rules.change();
        Set<String> merged = Set.copyOf(mapper.merged(FileImport.keys(all, ContactRow::key)));
        List<ContactRow> rows =
                all.stream().filter(row -> !merged.contains(row.key())).toList();
        Map<String, ContactState> known =
                FileImport.byKey(mapper.contacts(FileImport.keys(rows, ContactRow::key)), ContactState::key);
        FileImport<ContactState> in = new FileImport<>(known);
        Map<String, UUID> accounts = FileImport.refs(mapper.accountIds(FileImport.keys(rows, ContactRow::account)));
        for (ContactRow row : rows) {
            UUID account = in.reference(accounts, row.account(), row.line(), "account", "account");
            in.add(new ContactState(
                    in.id(row.key()),
                    row.key(),
                    row.name(),
                    row.title(),
                    account,
                    row.lastActive(),
                    FileImport.texts(row.addresses()),
                    FileImport.texts(row.phones())));
        }
        in.stopAtProblems();
        Set<String> touched = new HashSet<>();
        for (ContactState now : in.changed()) {
            touched.addAll(List.of(now.addresses()));
            if (known.containsKey(now.key())) {
                touched.addAll(List.of(known.get(now.key()).addresses()));
            }
        }
        touched.addAll(mapper.addressesOf(in.ids(ContactState::id)));
        mapper.writeContacts(in.changed());
        stays(rows, in.changed(), known);
        mapper.clearContactAddresses(in.ids(ContactState::id));
        FileImport.Pairs pairs = FileImport.Pairs.of(in.changed(), ContactState::id, ContactState::addresses);
        mapper.addContactAddresses(pairs.texts(), pairs.ids());
        mapper.clearPhones(in.ids(ContactState::id));
        FileImport.Pairs phones = FileImport.Pairs.of(in.changed(), ContactState::id, ContactState::phones);
        mapper.addPhones(
                phones.texts(), Arrays.stream(phones.texts()).map(keys::phone).toArray(UUID[]::new), phones.ids());
        reopened.mark(Reopened.records(touched));
        return done(in);
    }

    /** Whoever is at another account since a day was at the one before until then; without a day the account before was a mistake. */
    private void stays(List<ContactRow> rows, List<ContactState> changed, Map<String, ContactState> known) {
        Map<UUID, ContactState> now = changed.stream().collect(Collectors.toMap(ContactState::id, Function.identity()));
        List<UUID> contacts = new ArrayList<>();
        List<UUID> accounts = new ArrayList<>();
        List<String> until = new ArrayList<>();
        for (ContactRow row : rows) {
            ContactState was = known.get(row.key());
            ContactState is = was == null ? null : now.get(was.id());
            if (was != null
                    && is != null
                    && row.since() != null
                    && was.account() != null
                    && !was.account().equals(is.account())) {
                contacts.add(was.id());
                accounts.add(was.account());
                until.add(row.since().toString());
            }
        }
        mapper.addStays(contacts.toArray(UUID[]::new), accounts.toArray(UUID[]::new), until.toArray(String[]::new));
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome opportunities(List<OpportunityRow> rows) throws ImportRejected {
        rules.change();
        Map<String, OpportunityState> known = FileImport.byKey(
                mapper.opportunities(FileImport.keys(rows, OpportunityRow::key)), OpportunityState::key);
        FileImport<OpportunityState> in = new FileImport<>(known);
        Map<String, UUID> accounts = FileImport.refs(mapper.accountIds(FileImport.keys(rows, OpportunityRow::account)));
        Map<String, UUID> people = FileImport.refs(mapper.personIds(FileImport.keys(rows, OpportunityRow::owner)));
        Map<String, UUID> contacts = FileImport.refs(mapper.contactIds(
                rows.stream().flatMap(r -> r.contacts().stream()).distinct().toArray(String[]::new)));
        for (OpportunityRow row : rows) {
            UUID account = in.reference(accounts, row.account(), row.line(), "account", "account");
            UUID owner = in.reference(people, row.owner(), row.line(), "owner", "person");
            String value = row.value() == null
                    ? null
                    : row.value().stripTrailingZeros().toPlainString();
            in.add(new OpportunityState(
                    in.id(row.key()),
                    row.key(),
                    row.name(),
                    account,
                    row.stage(),
                    row.state().name(),
                    value,
                    row.currency(),
                    owner,
                    row.contacts().stream()
                            .map(key -> in.reference(contacts, key, row.line(), "contacts", "contact"))
                            .filter(Objects::nonNull)
                            .distinct()
                            .sorted(Comparator.comparing(UUID::toString))
                            .toArray(UUID[]::new)));
        }
        in.stopAtProblems();
        Set<UUID> concerned = new HashSet<>();
        for (OpportunityState now : in.changed()) {
            concerned.add(now.account());
            if (known.containsKey(now.key())) {
                concerned.add(known.get(now.key()).account());
            }
        }
        mapper.writeOpportunities(in.changed());
        mapper.clearParts(in.ids(OpportunityState::id));
        List<UUID> opportunities = new ArrayList<>();
        List<UUID> parts = new ArrayList<>();
        in.changed().forEach(o -> {
            for (UUID contact : o.contacts()) {
                opportunities.add(o.id());
                parts.add(contact);
            }
        });
        mapper.addParts(opportunities.toArray(UUID[]::new), parts.toArray(UUID[]::new));
        reopened.mark(Reopened.records(Set.copyOf(mapper.keysOfAccounts(concerned.toArray(UUID[]::new)))));
        return done(in);
    }

    /** What a large file brings, the planner learns at once: mail that comes in the minute after is matched through the indexes. */
    private FileImport.Outcome done(FileImport<?> in) {
        if (in.changed().size() >= FileImport.LARGE) {
            mapper.analyse();
        }
        return in.outcome();
    }
}
