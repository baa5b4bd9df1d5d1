package jandrel.store.directory;

import jandrel.core.decide.Reopened;
import jandrel.core.directory.DirectoryRows.Row;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.Reopener;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Takes in rows of one kind: first what they would change, without changing anything, then that. */
abstract class KindImport<R extends Row, S extends DirectoryState<S>> {
    final DirectoryMapper mapper;
    private final Reopener reopened;

    KindImport(DirectoryMapper mapper, Reopener reopened) {
        this.mapper = mapper;
        this.reopened = reopened;
    }

    /**
     * What rows come to.
     *
     * @param rows those that are taken: but for those that became a part of another
     * @param known what is there of them, by key
     */
    record Plan<R, S extends DirectoryState<S>>(List<R> rows, Map<String, S> known, FileImport<S> in, Hand hand) {
        /** Whether it was there. */
        boolean knows(S state) {
            return known.containsKey(state.key());
        }

        /** Those of the changed ones that were there, or those that come. */
        List<S> changed(boolean known) {
            return in.changed().stream().filter(s -> knows(s) == known).toList();
        }

        /** The changed ones of which something is another by which is decided. */
        List<S> deciding() {
            return in.changed().stream()
                    .filter(now -> {
                        S was = known.get(now.key());
                        return was == null || !now.decidesAs(was);
                    })
                    .toList();
        }

        /** What those have, and had. */
        <T> Set<T> beforeAndAfter(Function<S, Stream<T>> of) {
            return deciding().stream()
                    .flatMap(now -> Stream.concat(Stream.of(now), Optional.ofNullable(known.get(now.key())).stream()))
                    .flatMap(of)
                    .collect(Collectors.toCollection(HashSet::new));
        }
    }

    /** Changes nothing. What does not fit is in the plan. */
    abstract Plan<R, S> plan(List<R> rows, Hand hand);

    /** @return the keys of items that are decided again */
    abstract Set<String> write(Plan<R, S> plan) throws ImportRejected;

    /** All of them. */
    FileImport.Outcome take(List<R> rows, Hand hand) throws ImportRejected {
        Plan<R, S> plan = plan(rows, hand);
        plan.in().stopAtProblems();
        return written(plan);
    }

    /** Those of a file's rows that fit, and what they would change. */
    FileImport.Fitting fitting(List<R> rows) {
        return fit(rows).said();
    }

    /** Keeps what there was of known records before something changes them. */
    abstract void keep(ImportChanges changes, UUID file, UUID[] known);

    /** What there was of them. */
    abstract List<S> before(ImportChanges changes, UUID file, UUID[] records);

    /** Records as they are now. */
    abstract List<S> now(String[] keys);

    /** What there is of these rows, by key. */
    final Map<String, S> known(List<R> rows) {
        return FileImport.byKey(now(FileImport.keys(rows, Row::key)), S::key);
    }

    /**
     * Those of a file's rows that fit, all of them or none.
     *
     * @param file by which what they change can be undone
     */
    FileImport.Taken takeFitting(List<R> rows, ImportChanges changes, UUID file) throws ImportRejected {
        Fit<R, S> fit = fit(rows);
        UUID[] known = ids(fit.plan().changed(true));
        keep(changes, file, known);
        changes.came(file, ids(fit.plan().changed(false)), known.length);
        return new FileImport.Taken(written(fit.plan()), fit.problems());
    }

    static <S extends FileImport.State> UUID[] ids(List<S> states) {
        return states.stream().map(S::id).toArray(UUID[]::new);
    }

    /** Gives records back what they had before a file changed them, but for what somebody set here. */
    void restore(ImportChanges changes, UUID file, UUID[] records) throws ImportRejected {
        List<S> before = before(changes, file, records);
        Map<String, S> now = FileImport.byKey(now(before.stream().map(S::key).toArray(String[]::new)), S::key);
        FileImport<S> in = new FileImport<>(now);
        before.forEach(in::add);
        written(new Plan<>(List.of(), now, in, Hand.FILE));
    }

    private record Fit<R extends Row, S extends DirectoryState<S>>(Plan<R, S> plan, List<ImportProblem> problems) {
        FileImport.Fitting said() {
            return new FileImport.Fitting(List.copyOf(plan.rows()), problems, plan.in());
        }
    }

    private Fit<R, S> fit(List<R> rows) {
        Plan<R, S> plan = plan(rows, Hand.FILE);
        List<ImportProblem> problems = plan.in().problems();
        // what other lines name may be on a line that does not fit
        return new Fit<>(problems.isEmpty() ? plan : plan(FileImport.without(rows, problems), Hand.FILE), problems);
    }

    private FileImport.Outcome written(Plan<R, S> plan) throws ImportRejected {
        reopened.mark(Reopened.records(write(plan)));
        // what a large file brings, the planner learns at once: mail of the minute after is matched through the indexes
        if (plan.in().changed().size() >= FileImport.LARGE) {
            mapper.analyse();
        }
        return plan.in().outcome();
    }
}
