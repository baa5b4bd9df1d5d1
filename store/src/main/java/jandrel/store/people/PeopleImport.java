package jandrel.store.people;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Reopened;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import jandrel.store.kernel.StaleVersion;
import jandrel.store.people.PeopleMapper.PersonState;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Takes in files of people, each whole or not at all. Rows are matched by the file's own key; who is not in the file stays. */
@Component
public class PeopleImport {
    private final PeopleMapper mapper;
    private final Reopener reopened;
    private final RulesLock rules;
    private final PeopleListener listener;

    PeopleImport(PeopleMapper mapper, Reopener reopened, RulesLock rules, PeopleListener listener) {
        this.mapper = mapper;
        this.reopened = reopened;
        this.rules = rules;
        this.listener = listener;
    }

    /**
     * Takes in what somebody changed of people that are there.
     *
     * @param seen which version of each they saw
     * @throws StaleVersion if somebody changed one of them since
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome change(List<PersonRow> rows, Map<UUID, Long> seen) throws ImportRejected {
        rules.change();
        UUID[] ids = seen.keySet().stream().sorted().toArray(UUID[]::new);
        List<PeopleMapper.Version> now = mapper.locked(ids);
        if (now.size() != ids.length
                || now.stream().anyMatch(v -> !Long.valueOf(v.version()).equals(seen.get(v.id())))) {
            throw new StaleVersion();
        }
        return taken(rows);
    }

    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Outcome take(List<PersonRow> rows) throws ImportRejected {
        rules.change();
        return taken(rows);
    }

    /** What rows of a file would change. Changes nothing. */
    @Transactional(readOnly = true)
    public FileImport.Fitting preview(List<PersonRow> rows) {
        List<ImportProblem> problems = plan(rows, known(rows)).problems();
        List<PersonRow> fit = FileImport.without(rows, problems);
        return new FileImport.Fitting(List.copyOf(fit), problems, plan(fit, known(fit)));
    }

    /** Takes those of a file's rows that fit. */
    @Transactional(rollbackFor = ImportRejected.class)
    public FileImport.Taken takeFitting(List<PersonRow> rows) throws ImportRejected {
        rules.change();
        List<ImportProblem> problems = plan(rows, known(rows)).problems();
        return new FileImport.Taken(taken(FileImport.without(rows, problems)), problems);
    }

    private Map<String, PersonState> known(List<PersonRow> rows) {
        return FileImport.byKey(mapper.people(FileImport.keys(rows, PersonRow::key)), PersonState::key);
    }

    private FileImport.Outcome taken(List<PersonRow> rows) throws ImportRejected {
        Map<String, PersonState> known = known(rows);
        FileImport<PersonState> in = plan(rows, known);
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
        FileImport.Pairs pairs = FileImport.Pairs.of(in.changed(), PersonState::id, PersonState::addresses);
        mapper.addPersonAddresses(pairs.texts(), pairs.ids());
        listener.changed(in.changed().stream().map(PersonState::id).toList());
        reopened.mark(Reopened.addresses(before, after));
        if (in.changed().size() >= FileImport.LARGE) {
            mapper.analyse();
        }
        return in.outcome();
    }

    private FileImport<PersonState> plan(List<PersonRow> rows, Map<String, PersonState> known) {
        FileImport<PersonState> in = new FileImport<>(known);
        Map<String, String> taken = new HashMap<>();
        in.takenElsewhere(
                mapper.addressOwners(FileImport.texts(rows, PersonRow::addresses)),
                FileImport.keys(rows, PersonRow::key),
                taken);
        for (PersonRow row : rows) {
            for (EmailAddress address : row.addresses()) {
                in.single(taken, address.toString(), row.key(), row.line(), "addresses", "a person");
            }
            if (row.addresses().isEmpty()) {
                in.problem(row.line(), "addresses", "the cell is empty; a person needs an address to be recognised by");
            }
            in.add(new PersonState(
                    in.id(row.key()),
                    row.key(),
                    row.name(),
                    row.team(),
                    row.role(),
                    FileImport.texts(row.addresses())));
        }
        return in;
    }
}
