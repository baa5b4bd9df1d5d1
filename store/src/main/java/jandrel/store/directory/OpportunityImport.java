package jandrel.store.directory;

import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.store.directory.DirectoryMapper.OpportunityState;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.Reopener;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

@Component
class OpportunityImport extends KindImport<OpportunityRow, OpportunityState> {
    private static final Set<String> COLUMNS =
            Set.of("name", "account", "stage", "state", "value", "currency", "period", "channel", "owner", "contacts");

    OpportunityImport(DirectoryMapper mapper, Reopener reopened) {
        super(mapper, reopened);
    }

    @Override
    Plan<OpportunityRow, OpportunityState> plan(List<OpportunityRow> rows, Hand hand) {
        Map<String, OpportunityState> known = known(rows);
        FileImport<OpportunityState> in = new FileImport<>(known);
        Map<String, UUID> accounts =
                FileImport.refs(mapper.accountsNamed(FileImport.keys(rows, OpportunityRow::account)));
        Map<String, UUID> people = FileImport.refs(mapper.personIds(FileImport.keys(rows, OpportunityRow::owner)));
        Map<String, UUID> contacts = FileImport.refs(mapper.contactsNamed(
                rows.stream().flatMap(r -> r.contacts().stream()).distinct().toArray(String[]::new)));
        for (OpportunityRow row : rows) {
            UUID account = in.reference(accounts, row.account(), row.line(), "account", "account");
            UUID owner = in.reference(people, row.owner(), row.line(), "owner", "person");
            String value = row.value() == null
                    ? null
                    : row.value().stripTrailingZeros().toPlainString();
            UUID[] parts = row.contacts().stream()
                    .map(key -> in.reference(contacts, key, row.line(), "contacts", "contact"))
                    .filter(Objects::nonNull)
                    .distinct()
                    .sorted(Comparator.comparing(UUID::toString))
                    .toArray(UUID[]::new);
            in.add(
                    hand.settled(
                            new OpportunityState(
                                    in.id(row.key()),
                                    row.key(),
                                    row.name(),
                                    account,
                                    row.stage(),
                                    row.state().name(),
                                    value,
                                    row.currency(),
                                    row.period().word(),
                                    row.channel(),
                                    owner,
                                    parts,
                                    new String[0]),
                            known.get(row.key()),
                            COLUMNS),
                    hand.isSomebodys());
        }
        return new Plan<>(rows, known, in, hand);
    }

    @Override
    Set<String> write(Plan<OpportunityRow, OpportunityState> plan) {
        FileImport<OpportunityState> in = plan.in();
        Set<UUID> concerned = plan.beforeAndAfter(deal -> Stream.ofNullable(deal.account()));
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
        return Set.copyOf(mapper.keysOfAccounts(concerned.toArray(UUID[]::new)));
    }

    @Override
    void keep(ImportChanges changes, UUID file, UUID[] known) {
        changes.keepOpportunities(file, known);
    }

    @Override
    List<OpportunityState> before(ImportChanges changes, UUID file, UUID[] records) {
        return changes.opportunitiesBefore(file, records);
    }

    @Override
    List<OpportunityState> now(String[] keys) {
        return mapper.opportunities(keys);
    }
}
