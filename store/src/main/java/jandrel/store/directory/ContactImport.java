package jandrel.store.directory;

import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.ImportRejected;
import jandrel.store.directory.DirectoryMapper.ContactState;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Reopener;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

@Component
class ContactImport extends KindImport<ContactRow, ContactState> {
    private static final Set<String> COLUMNS = Set.of("name", "addresses", "phones", "account", "title", "last_active");
    private final ItemKeys keys;

    ContactImport(DirectoryMapper mapper, Reopener reopened, ItemKeys keys) {
        super(mapper, reopened);
        this.keys = keys;
    }

    @Override
    Plan<ContactRow, ContactState> plan(List<ContactRow> all, Hand hand) {
        List<ContactRow> rows = FileImport.butFor(all, mapper.mergedContacts(FileImport.keys(all, ContactRow::key)));
        Map<String, ContactState> known = known(rows);
        FileImport<ContactState> in = new FileImport<>(known);
        Map<String, UUID> accounts = FileImport.refs(mapper.accountsNamed(FileImport.keys(rows, ContactRow::account)));
        for (ContactRow row : rows) {
            UUID account = in.reference(accounts, row.account(), row.line(), "account", "account");
            ContactState was = known.get(row.key());
            in.add(
                    hand.settled(
                            new ContactState(
                                    in.id(row.key()),
                                    row.key(),
                                    row.name(),
                                    row.title(),
                                    account,
                                    row.lastActive(),
                                    FileImport.texts(row.addresses()),
                                    FileImport.texts(row.phones()),
                                    new String[0],
                                    OwnValues.with(was == null ? OwnValues.NONE : was.own(), row.own())),
                            was,
                            columns(row)),
                    hand.isSomebodys());
        }
        return new Plan<>(rows, known, in, hand);
    }

    private static Set<String> columns(ContactRow row) {
        if (row.own().isEmpty()) {
            return COLUMNS;
        }
        Set<String> all = new HashSet<>(COLUMNS);
        all.addAll(row.own().keySet());
        return all;
    }

    @Override
    Set<String> write(Plan<ContactRow, ContactState> plan) {
        Set<String> touched = plan.beforeAndAfter(contact -> Arrays.stream(contact.addresses()));
        touched.addAll(mapper.addressesOf(
                ids(plan.deciding().stream().filter(plan::knows).toList())));
        mapper.writeContacts(plan.in().changed());
        stays(plan);
        addresses(plan);
        phones(plan);
        return touched;
    }

    /** Of whom somebody changed them here, or else of all others: a file takes away only what files brought. */
    private static List<ContactState> those(Plan<ContactRow, ContactState> plan, String column, boolean byHand) {
        return plan.in().changed().stream()
                .filter(c -> plan.hand().changes(c.key(), column) == byHand)
                .toList();
    }

    private void addresses(Plan<ContactRow, ContactState> plan) {
        List<ContactState> ofFiles = those(plan, "addresses", false);
        FileImport.Pairs brought = addresses(ofFiles);
        mapper.clearContactAddresses(ids(ofFiles.stream().filter(plan::knows).toList()));
        mapper.addContactAddresses(brought.texts(), brought.ids());
        List<ContactState> byHand = those(plan, "addresses", true);
        FileImport.Pairs given = addresses(byHand);
        mapper.keepContactAddresses(ids(byHand), given.texts(), given.ids());
        mapper.giveContactAddresses(given.texts(), given.ids());
    }

    private static FileImport.Pairs addresses(List<ContactState> states) {
        return FileImport.Pairs.of(states, ContactState::id, ContactState::addresses);
    }

    private void phones(Plan<ContactRow, ContactState> plan) {
        List<ContactState> ofFiles = those(plan, "phones", false);
        FileImport.Pairs brought = phones(ofFiles);
        mapper.clearPhones(ids(ofFiles.stream().filter(plan::knows).toList()));
        mapper.addPhones(brought.texts(), hashes(brought), brought.ids());
        List<ContactState> byHand = those(plan, "phones", true);
        FileImport.Pairs given = phones(byHand);
        mapper.keepPhones(ids(byHand), given.texts(), given.ids());
        mapper.givePhones(given.texts(), hashes(given), given.ids());
    }

    private static FileImport.Pairs phones(List<ContactState> states) {
        return FileImport.Pairs.of(states, ContactState::id, ContactState::phones);
    }

    private UUID[] hashes(FileImport.Pairs phones) {
        return Arrays.stream(phones.texts()).map(keys::phone).toArray(UUID[]::new);
    }

    /** Whoever is at another account since a day was at the one before until then; without a day the account before was a mistake. */
    private void stays(Plan<ContactRow, ContactState> plan) {
        Map<UUID, ContactState> now =
                plan.in().changed().stream().collect(Collectors.toMap(ContactState::id, Function.identity()));
        List<UUID> contacts = new ArrayList<>();
        List<UUID> accounts = new ArrayList<>();
        List<String> until = new ArrayList<>();
        for (ContactRow row : plan.rows()) {
            ContactState was = plan.known().get(row.key());
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

    @Override
    void keep(ImportChanges changes, UUID file, UUID[] known) {
        changes.keepContacts(file, known);
        changes.keepStays(file, known);
    }

    @Override
    void restore(ImportChanges changes, UUID file, UUID[] records) throws ImportRejected {
        changes.removeStays(file, records);
        super.restore(changes, file, records);
    }

    @Override
    List<ContactState> before(ImportChanges changes, UUID file, UUID[] records) {
        return changes.contactsBefore(file, records);
    }

    @Override
    List<ContactState> now(String[] keys) {
        return mapper.contacts(keys);
    }
}
