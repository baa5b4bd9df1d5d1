package jandrel.store.kernel;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryRows.Row;
import jandrel.core.directory.ImportProblem;
import jandrel.core.directory.ImportRejected;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Gathers what one file changes, and what is wrong with it. */
public final class FileImport<S extends FileImport.State> {
    /** Rows from which on a file is large: the planner learns of them at once. */
    public static final int LARGE = 200;

    /** What a file did. */
    public record Outcome(int added, int updated, int unchanged) {}

    public record Ref(String key, UUID id) {}

    /** What a row outside the file has, and its key. */
    public record Held(String what, String key) {}

    /**
     * What a file would do.
     *
     * @param rows those that fit
     * @param problems of the others
     * @param plan what the rows would change
     */
    public record Fitting(List<Row> rows, List<ImportProblem> problems, FileImport<?> plan) {}

    /** @param problems of the rows that were left out */
    public record Taken(Outcome outcome, List<ImportProblem> problems) {}

    /** Those rows that nothing is wrong with. */
    public static <R extends Row> List<R> without(List<R> rows, List<ImportProblem> problems) {
        Set<Long> wrong = problems.stream().map(ImportProblem::line).collect(Collectors.toSet());
        return rows.stream().filter(row -> !wrong.contains(row.line())).toList();
    }

    /** Those rows whose key is none of these. */
    public static <R extends Row> List<R> butFor(List<R> rows, List<String> keys) {
        Set<String> these = Set.copyOf(keys);
        return these.isEmpty()
                ? rows
                : rows.stream().filter(row -> !these.contains(row.key())).toList();
    }

    /** A row as the database has it. */
    public interface State {
        UUID id();

        String key();

        /** Whether nothing differs from the other. */
        boolean same(State other);
    }

    /** Two columns for unnest. */
    public record Pairs(String[] texts, UUID[] ids) {
        public static <S> Pairs of(List<S> states, Function<S, UUID> id, Function<S, String[]> texts) {
            List<String> all = new ArrayList<>();
            List<UUID> ids = new ArrayList<>();
            states.forEach(s -> Arrays.stream(texts.apply(s)).forEach(t -> {
                all.add(t);
                ids.add(id.apply(s));
            }));
            return new Pairs(all.toArray(String[]::new), ids.toArray(UUID[]::new));
        }
    }

    private final Map<String, S> known;
    private final Map<String, S> wanted = new LinkedHashMap<>();
    private final List<ImportProblem> problems = new ArrayList<>();
    private int added;
    private int unchanged;

    public FileImport(Map<String, S> known) {
        this.known = known;
    }

    public UUID id(String key) {
        return known.containsKey(key) ? known.get(key).id() : UUID.randomUUID();
    }

    public void problem(long line, String column, String reason) {
        problems.add(new ImportProblem(line, column, reason));
    }

    @Nullable
    public UUID reference(Map<String, UUID> ids, String key, long line, String column, String what) {
        UUID id = ids.get(key);
        if (id == null && !key.isEmpty()) {
            problem(line, column, "there is no " + what + " with the key “" + key + "”; import it first");
        }
        return id;
    }

    /** What rows outside the file have; those inside give up what they no longer name. */
    public void takenElsewhere(List<Held> owners, String[] inFile, Map<String, String> taken) {
        Set<String> own = Set.of(inFile);
        owners.stream().filter(o -> !own.contains(o.key())).forEach(o -> taken.put(o.what(), o.key()));
    }

    public void single(Map<String, String> taken, String text, String key, long line, String column, String what) {
        String other = taken.putIfAbsent(text, key);
        if (other != null && !other.equals(key)) {
            String shown = text.startsWith("@") ? text.substring(1) : text;
            problem(
                    line,
                    column,
                    "“" + shown + "” already belongs to “" + other + "”, and one is " + what + "’s alone");
        }
    }

    public void add(S state) {
        add(state, false);
    }

    /** @param always whether it counts as changed even where it looks the same */
    public void add(S state, boolean always) {
        S before = known.get(state.key());
        if (before == null) {
            added++;
            wanted.put(state.key(), state);
        } else if (!always && before.same(state)) {
            unchanged++;
        } else {
            wanted.put(state.key(), state);
        }
    }

    public List<S> changed() {
        return List.copyOf(wanted.values());
    }

    public UUID[] ids(Function<S, UUID> id) {
        return wanted.values().stream().map(id).toArray(UUID[]::new);
    }

    public List<ImportProblem> problems() {
        return List.copyOf(problems);
    }

    /** Whether a row of the file is none that was there, one that differs from that, or the same. */
    public enum Change {
        ADDED,
        CHANGED,
        UNCHANGED
    }

    /** What becomes of the row with this key. */
    public Change change(String key) {
        return !known.containsKey(key) ? Change.ADDED : wanted.containsKey(key) ? Change.CHANGED : Change.UNCHANGED;
    }

    public void stopAtProblems() throws ImportRejected {
        if (!problems.isEmpty()) {
            throw new ImportRejected(problems);
        }
    }

    public Outcome outcome() {
        return new Outcome(added, wanted.size() - added, unchanged);
    }

    public static String[] texts(List<?> values) {
        return values.stream().map(Object::toString).sorted().distinct().toArray(String[]::new);
    }

    public static <R> String[] texts(List<R> rows, Function<R, List<EmailAddress>> addresses) {
        return rows.stream()
                .flatMap(r -> addresses.apply(r).stream())
                .map(EmailAddress::toString)
                .toArray(String[]::new);
    }

    public static <R> String[] keys(List<R> rows, Function<R, String> key) {
        return rows.stream().map(key).filter(k -> !k.isEmpty()).distinct().toArray(String[]::new);
    }

    public static <S> Map<String, S> byKey(List<S> states, Function<S, String> key) {
        return states.stream().collect(Collectors.toMap(key, Function.identity()));
    }

    public static Map<String, UUID> refs(List<Ref> refs) {
        return refs.stream().collect(Collectors.toMap(Ref::key, Ref::id));
    }
}
