package jandrel.store.directory;

import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.store.directory.DirectoryMapper.LeadState;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.Reopener;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

@Component
class LeadImport extends KindImport<LeadRow, LeadState> {
    private static final Set<String> COLUMNS = Set.of("name", "addresses", "company", "owner");

    LeadImport(DirectoryMapper mapper, Reopener reopened) {
        super(mapper, reopened);
    }

    @Override
    Plan<LeadRow, LeadState> plan(List<LeadRow> all, Hand hand) {
        List<LeadRow> rows = FileImport.butFor(all, mapper.mergedLeads(FileImport.keys(all, LeadRow::key)));
        Map<String, LeadState> known = known(rows);
        FileImport<LeadState> in = new FileImport<>(known);
        Map<String, UUID> people = FileImport.refs(mapper.personIds(FileImport.keys(rows, LeadRow::owner)));
        for (LeadRow row : rows) {
            UUID owner = in.reference(people, row.owner(), row.line(), "owner", "person");
            in.add(
                    hand.settled(
                            new LeadState(
                                    in.id(row.key()),
                                    row.key(),
                                    row.name(),
                                    row.company(),
                                    owner,
                                    FileImport.texts(row.addresses()),
                                    new String[0]),
                            known.get(row.key()),
                            COLUMNS),
                    hand.isSomebodys());
        }
        return new Plan<>(rows, known, in, hand);
    }

    @Override
    Set<String> write(Plan<LeadRow, LeadState> plan) {
        FileImport<LeadState> in = plan.in();
        Set<String> touched = plan.beforeAndAfter(lead -> Arrays.stream(lead.addresses()));
        mapper.writeLeads(in.changed());
        mapper.clearLeadAddresses(in.ids(LeadState::id));
        FileImport.Pairs pairs = FileImport.Pairs.of(in.changed(), LeadState::id, LeadState::addresses);
        mapper.addLeadAddresses(pairs.texts(), pairs.ids());
        return touched;
    }

    @Override
    void keep(ImportChanges changes, UUID file, UUID[] known) {
        changes.keepLeads(file, known);
    }

    @Override
    List<LeadState> before(ImportChanges changes, UUID file, UUID[] records) {
        return changes.leadsBefore(file, records);
    }

    @Override
    List<LeadState> now(String[] keys) {
        return mapper.leads(keys);
    }
}
