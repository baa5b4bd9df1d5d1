package jandrel.store;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Reopened;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.store.DirectoryMapper.AccountState;
import jandrel.store.DirectoryMapper.ContactState;
import jandrel.store.DirectoryMapper.LeadState;
import jandrel.store.DirectoryMapper.OpportunityState;
import jandrel.store.DirectoryMapper.PersonState;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Takes in the directory's files: each whole or not at all. Rows are matched by the file's own key; what is not in the file stays.
 * Only items that carry an address or domain of what really changed are decided again.
 */
@Component
public class Directory {
    /** Lines of a file from which on it is a large one. */
    private static final int LARGE = 200;

    private final DirectoryMapper mapper;
    private final ReopenedMapper reopened;
    private final RulesLock rules;
    private final Cover cover;
    private final Policies policies;
    private final ItemKeys keys;

    /** What a file did. */
    public record Outcome(int added, int updated, int unchanged) {}

    Directory(
            DirectoryMapper mapper,
            ReopenedMapper reopened,
            RulesLock rules,
            Cover cover,
            Policies policies,
            ItemKeys keys) {
        this.cover = cover;
        this.policies = policies;
        this.keys = keys;
        this.mapper = mapper;
        this.reopened = reopened;
        this.rules = rules;
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public Outcome people(List<PersonRow> rows) throws ImportRejected {
        rules.change();
        Map<String, PersonState> known = byKey(mapper.people(keys(rows, PersonRow::key)), PersonState::key);
        Import<PersonState> in = new Import<>(known);
        Map<String, String> taken = new HashMap<>();
        in.takenElsewhere(mapper.addressOwners(texts(rows, PersonRow::addresses)), keys(rows, PersonRow::key), taken);
        for (PersonRow row : rows) {
            for (EmailAddress address : row.addresses()) {
                in.single(taken, address.toString(), row.key(), row.line(), "addresses", "a person");
            }
            if (row.addresses().isEmpty()) {
                in.problem(row.line(), "addresses", "the cell is empty; a person needs an address to be recognised by");
            }
            in.add(new PersonState(
                    in.id(row.key()), row.key(), row.name(), row.team(), row.role(), texts(row.addresses())));
        }
        in.stopAtProblems();
        Set<String> before = new HashSet<>();
        Set<String> after = new HashSet<>();
        for (PersonState now : in.changed()) {
            if (known.containsKey(now.key())) {
                before.addAll(List.of(known.get(now.key()).addresses()));
            }
            after.addAll(List.of(now.addresses()));
        }
        mapper.writePeople(in.changed());
        mapper.clearPersonAddresses(in.ids(PersonState::id));
        Pairs pairs = Pairs.of(in.changed(), PersonState::id, PersonState::addresses);
        mapper.addPersonAddresses(pairs.texts(), pairs.ids());
        cover.changed(in.changed().stream().map(PersonState::id).toList(), policies.inOrder());
        reopened.mark(Reopened.addresses(before, after));
        return done(in);
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public Outcome accounts(List<AccountRow> rows) throws ImportRejected {
        rules.change();
        Map<String, AccountState> known = byKey(mapper.accounts(keys(rows, AccountRow::key)), AccountState::key);
        Import<AccountState> in = new Import<>(known);
        Map<String, UUID> people = refs(mapper.personIds(keys(rows, AccountRow::owner)));
        Map<String, UUID> above = refs(mapper.accountIds(keys(rows, AccountRow::partOf)));
        // an account may be a part of one that stands further down in the same file
        rows.forEach(row -> above.computeIfAbsent(row.key(), in::id));
        Map<String, String> taken = new HashMap<>();
        String[] domainKeys = rows.stream()
                .flatMap(r -> r.domains().stream())
                .map(DomainName::key)
                .toArray(String[]::new);
        in.takenElsewhere(mapper.domainOwners(domainKeys), keys(rows, AccountRow::key), taken);
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
        Pairs pairs = Pairs.of(in.changed(), AccountState::id, AccountState::domains);
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
    public Outcome leads(List<LeadRow> rows) throws ImportRejected {
        rules.change();
        Map<String, LeadState> known = byKey(mapper.leads(keys(rows, LeadRow::key)), LeadState::key);
        Import<LeadState> in = new Import<>(known);
        Map<String, UUID> people = refs(mapper.personIds(keys(rows, LeadRow::owner)));
        for (LeadRow row : rows) {
            UUID owner = in.reference(people, row.owner(), row.line(), "owner", "person");
            in.add(new LeadState(
                    in.id(row.key()), row.key(), row.name(), row.company(), owner, texts(row.addresses())));
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
        Pairs pairs = Pairs.of(in.changed(), LeadState::id, LeadState::addresses);
        mapper.addLeadAddresses(pairs.texts(), pairs.ids());
        reopened.mark(Reopened.records(touched));
        return done(in);
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public Outcome contacts(List<ContactRow> all) throws ImportRejected {
        rules.change();
        Set<String> merged = Set.copyOf(mapper.merged(keys(all, ContactRow::key)));
        List<ContactRow> rows =
                all.stream().filter(row -> !merged.contains(row.key())).toList();
        Map<String, ContactState> known = byKey(mapper.contacts(keys(rows, ContactRow::key)), ContactState::key);
        Import<ContactState> in = new Import<>(known);
        Map<String, UUID> accounts = refs(mapper.accountIds(keys(rows, ContactRow::account)));
        for (ContactRow row : rows) {
            UUID account = in.reference(accounts, row.account(), row.line(), "account", "account");
            in.add(new ContactState(
                    in.id(row.key()),
                    row.key(),
                    row.name(),
                    row.title(),
                    account,
                    row.lastActive(),
                    texts(row.addresses()),
                    texts(row.phones())));
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
        Pairs pairs = Pairs.of(in.changed(), ContactState::id, ContactState::addresses);
        mapper.addContactAddresses(pairs.texts(), pairs.ids());
        mapper.clearPhones(in.ids(ContactState::id));
        Pairs phones = Pairs.of(in.changed(), ContactState::id, ContactState::phones);
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
    public Outcome opportunities(List<OpportunityRow> rows) throws ImportRejected {
        rules.change();
        Map<String, OpportunityState> known =
                byKey(mapper.opportunities(keys(rows, OpportunityRow::key)), OpportunityState::key);
        Import<OpportunityState> in = new Import<>(known);
        Map<String, UUID> accounts = refs(mapper.accountIds(keys(rows, OpportunityRow::account)));
        Map<String, UUID> people = refs(mapper.personIds(keys(rows, OpportunityRow::owner)));
        Map<String, UUID> contacts = refs(mapper.contactIds(
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

    private static String[] texts(List<?> values) {
        return values.stream().map(Object::toString).sorted().distinct().toArray(String[]::new);
    }

    private static <R> String[] texts(List<R> rows, Function<R, List<EmailAddress>> addresses) {
        return rows.stream()
                .flatMap(r -> addresses.apply(r).stream())
                .map(EmailAddress::toString)
                .toArray(String[]::new);
    }

    private static <R> String[] keys(List<R> rows, Function<R, String> key) {
        return rows.stream().map(key).filter(k -> !k.isEmpty()).distinct().toArray(String[]::new);
    }

    private static <S> Map<String, S> byKey(List<S> states, Function<S, String> key) {
        return states.stream().collect(Collectors.toMap(key, Function.identity()));
    }

    private static Map<String, UUID> refs(List<DirectoryMapper.Ref> refs) {
        return refs.stream().collect(Collectors.toMap(DirectoryMapper.Ref::key, DirectoryMapper.Ref::id));
    }

    /** Two columns for unnest. */
    private record Pairs(String[] texts, UUID[] ids) {
        static <S> Pairs of(List<S> states, Function<S, UUID> id, Function<S, String[]> texts) {
            List<String> all = new ArrayList<>();
            List<UUID> ids = new ArrayList<>();
            states.forEach(s -> Arrays.stream(texts.apply(s)).forEach(t -> {
                all.add(t);
                ids.add(id.apply(s));
            }));
            return new Pairs(all.toArray(String[]::new), ids.toArray(UUID[]::new));
        }
    }

    /** What a large file brings, the planner learns at once: mail that comes in the minute after is matched through the indexes. */
    private Outcome done(Import<?> in) {
        if (in.changed().size() >= LARGE) {
            mapper.analyse();
        }
        return in.outcome();
    }

    /** Gathers what one file changes, and what is wrong with it. */
    private static final class Import<S extends DirectoryMapper.State> {
        private final Map<String, S> known;
        private final Map<String, S> wanted = new LinkedHashMap<>();
        private final List<ImportProblem> problems = new ArrayList<>();
        private int added;
        private int unchanged;

        Import(Map<String, S> known) {
            this.known = known;
        }

        UUID id(String key) {
            return known.containsKey(key) ? known.get(key).id() : UUID.randomUUID();
        }

        void problem(long line, String column, String reason) {
            problems.add(new ImportProblem(line, column, reason));
        }

        @Nullable
        UUID reference(Map<String, UUID> ids, String key, long line, String column, String what) {
            UUID id = ids.get(key);
            if (id == null && !key.isEmpty()) {
                problem(line, column, "there is no " + what + " with the key “" + key + "”; import it first");
            }
            return id;
        }

        /** What rows outside the file have; those inside give up what they no longer name. */
        void takenElsewhere(List<DirectoryMapper.Taken> owners, String[] inFile, Map<String, String> taken) {
            Set<String> own = Set.of(inFile);
            owners.stream().filter(o -> !own.contains(o.key())).forEach(o -> taken.put(o.what(), o.key()));
        }

        void single(Map<String, String> taken, String text, String key, long line, String column, String what) {
            String other = taken.putIfAbsent(text, key);
            if (other != null && !other.equals(key)) {
                String shown = text.startsWith("@") ? text.substring(1) : text;
                problem(
                        line,
                        column,
                        "“" + shown + "” already belongs to “" + other + "”, and one is " + what + "’s alone");
            }
        }

        void add(S state) {
            S before = known.get(state.key());
            if (before == null) {
                added++;
                wanted.put(state.key(), state);
            } else if (before.same(state)) {
                unchanged++;
            } else {
                wanted.put(state.key(), state);
            }
        }

        List<S> changed() {
            return List.copyOf(wanted.values());
        }

        UUID[] ids(Function<S, UUID> id) {
            return wanted.values().stream().map(id).toArray(UUID[]::new);
        }

        void stopAtProblems() throws ImportRejected {
            if (!problems.isEmpty()) {
                throw new ImportRejected(problems);
            }
        }

        Outcome outcome() {
            return new Outcome(added, wanted.size() - added, unchanged);
        }
    }
}
