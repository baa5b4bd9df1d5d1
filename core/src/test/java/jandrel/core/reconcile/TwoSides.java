package jandrel.core.reconcile;

import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Details.When;
import jandrel.core.reconcile.Exchange.Entry;
import jandrel.core.reconcile.Exchange.Found;
import jandrel.core.reconcile.Exchange.Sending;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.SplittableRandom;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * A calendar server and our own records, in memory, with people who change things on both and a network that breaks. Every value that
 * somebody enters is entered once: {@code h7} here, {@code t8} in the calendar, so that each can be followed to its end.
 */
final class TwoSides implements Exchange.Ledger<TwoSides.Key, Details>, Exchange.Remote<TwoSides.Key, Details> {
    private static final Instant MONDAY = Instant.parse("2026-03-02T09:00:00Z");
    private static final List<Field> WORDS = List.of(Field.TITLE, Field.WHEN, Field.PLACE, Field.TEXT);
    private static final String DELETED = "deleted";

    /** One occurrence in one file of the calendar. */
    record Key(String file, int occurrence) {}

    /** What breaks while the sides are settled. */
    enum Fault {
        NONE,
        LOST_BEFORE,
        LOST_AFTER,
        CHANGED_BETWEEN,
        CHANGED_HERE_BETWEEN
    }

    private static final class NoAnswer extends RuntimeException {
        private static final long serialVersionUID = 1L;
    }

    private record Standing(Details details, String mark, Instant changedAt) {}

    /** A file of the calendar, with the states of all its occurrences. */
    private static final class File {
        private final Map<Integer, Standing> occurrences = new TreeMap<>();
        private int tag;
        private int changedAt;
    }

    private final Map<Key, Entry<Details>> ours = new LinkedHashMap<>();
    private final Map<String, File> files = new LinkedHashMap<>();
    private final Set<Key> dirty = new HashSet<>();
    private final Exchange<Key, Details> exchange = new Exchange<>(Field.MEETING, this, this);
    private final Preference preference;
    private final SplittableRandom random;
    /** By meeting: what somebody entered and where it must still be found. */
    final Map<Key, Set<String>> entered = new HashMap<>();

    final Map<Key, Set<String>> replaced = new HashMap<>();
    final Map<Key, Set<Conflict<Details>>> journal = new HashMap<>();
    final List<String> problems = new ArrayList<>();
    private Fault fault = Fault.NONE;
    private int clock;
    private int token;
    /** What happened, for whoever reads a failure. */
    final List<String> story = new ArrayList<>();

    int writes;
    int receipts;

    TwoSides(Preference preference, SplittableRandom random) {
        this.preference = preference;
        this.random = random;
    }

    private Instant now() {
        return MONDAY.plus(Duration.ofMinutes(++clock));
    }

    // ---- the people ----

    /** One thing that somebody does, or one pass; drawn from the generator of this step alone. */
    void step(long seed) {
        SplittableRandom chance = new SplittableRandom(seed);
        switch (chance.nextInt(12)) {
            case 0 -> createHere(chance);
            case 1, 2, 3 -> editHere(chance);
            case 4 -> deleteHere(chance);
            case 5 -> createThere(chance);
            case 6, 7 -> editThere(chance);
            case 8 -> deleteThere(chance);
            case 9 -> splitThere(chance);
            default -> pass(Fault.values()[chance.nextInt(Fault.values().length)], chance);
        }
    }

    private Details fresh(String origin, SplittableRandom chance) {
        String id = origin + ++clock;
        Instant begins = MONDAY.plus(Duration.ofMinutes(clock));
        return new Details(
                id,
                new When(begins, begins.plusSeconds(1800), false, id),
                "p" + id,
                "",
                "x" + id,
                chance.nextBoolean(),
                Privacy.PUBLIC,
                Details.NONE,
                new TreeSet<>(Set.of("g" + id)),
                new TreeMap<>(),
                false);
    }

    private Details edited(Details was, String origin, SplittableRandom chance) {
        int kind = chance.nextInt(7);
        Details with = fresh(origin, chance);
        if (kind < WORDS.size()) {
            return WORDS.get(kind).put(was, with);
        }
        if (kind == 4) {
            return Field.BUSY.put(was, was.busy() == with.busy() ? flipped(with) : with);
        }
        if (kind == 5 && !was.guests().isEmpty()) {
            TreeMap<String, Answer> answers = new TreeMap<>(was.answers());
            answers.merge(
                    was.guests().first(),
                    Answer.ACCEPTED,
                    (is, accepted) -> Answer.values()[(is.ordinal() + 1 + chance.nextInt(2)) % 3]);
            return was.answered(answers);
        }
        TreeSet<String> guests = new TreeSet<>(was.guests());
        if (guests.size() > 1 && chance.nextBoolean()) {
            guests.remove(guests.first());
        } else {
            guests.addAll(with.guests());
        }
        return was.with(guests);
    }

    private static Details flipped(Details d) {
        return new Details(
                d.title(),
                d.when(),
                d.place(),
                d.online(),
                d.text(),
                !d.busy(),
                d.privacy(),
                d.reminder(),
                d.guests(),
                d.answers(),
                d.cancelled());
    }

    private void follow(Key key, @Nullable Details before, @Nullable Details after) {
        Set<String> old = values(before);
        Set<String> now = values(after);
        Set<String> gone = new TreeSet<>(old);
        gone.removeAll(now);
        replaced.computeIfAbsent(key, k -> new TreeSet<>()).addAll(gone);
        now.removeAll(old);
        story.add(key + (before == null ? " made " : after == null ? " deleted " : " ") + now + " for " + gone);
        entered.computeIfAbsent(key, k -> new TreeSet<>()).addAll(now);
    }

    static Set<String> values(@Nullable Details details) {
        Set<String> values = new TreeSet<>();
        if (details != null) {
            values.add("TITLE " + details.title());
            values.add("WHEN " + Field.WHEN.words(details));
            values.add("PLACE " + details.place());
            values.add("TEXT " + details.text());
            details.guests().forEach(g -> values.add("GUEST " + g));
            details.answers().forEach((g, a) -> values.add("ANSWER " + g + " " + a.word()));
        }
        return values;
    }

    private void createHere(SplittableRandom chance) {
        Key key = new Key("f" + ours.size() + "h" + clock, 0);
        Details made = fresh("h", chance);
        follow(key, null, made);
        ours.put(key, new Entry<>(new Side<>(made, now()), null, null, false, 1));
        dirty.add(key);
    }

    private @Nullable Key anyHere(SplittableRandom chance) {
        List<Key> keys = ours.keySet().stream()
                .filter(k -> entry(k).here().details() != null && !entry(k).detached())
                .toList();
        return keys.isEmpty() ? null : keys.get(chance.nextInt(keys.size()));
    }

    private Entry<Details> entry(Key key) {
        return Objects.requireNonNull(ours.get(key));
    }

    private void editHere(SplittableRandom chance) {
        Key key = anyHere(chance);
        if (key != null) {
            Details was = Objects.requireNonNull(entry(key).here().details());
            here(key, edited(was, "h", chance));
        }
    }

    private void deleteHere(SplittableRandom chance) {
        Key key = anyHere(chance);
        if (key != null) {
            here(key, null);
        }
    }

    private void here(Key key, @Nullable Details details) {
        Entry<Details> e = entry(key);
        follow(key, e.here().details(), details);
        ours.put(key, new Entry<>(new Side<>(details, now()), e.base(), e.sending(), false, e.version() + 1));
        dirty.add(key);
    }

    private void createThere(SplittableRandom chance) {
        String name = "f" + files.size() + "t" + clock;
        File file = new File();
        files.put(name, file);
        for (int i = 0; i <= chance.nextInt(4); i++) {
            there(new Key(name, i), fresh("t", chance), "");
        }
    }

    private @Nullable Key anyThere(SplittableRandom chance) {
        List<Key> keys = new ArrayList<>();
        files.forEach((name, file) -> file.occurrences.keySet().forEach(o -> keys.add(new Key(name, o))));
        keys.removeIf(k -> ours.containsKey(k) && entry(k).detached());
        return keys.isEmpty() ? null : keys.get(chance.nextInt(keys.size()));
    }

    private Standing standing(Key key) {
        return Objects.requireNonNull(
                Objects.requireNonNull(files.get(key.file())).occurrences.get(key.occurrence()));
    }

    private void editThere(SplittableRandom chance) {
        Key key = anyThere(chance);
        if (key != null) {
            Standing was = standing(key);
            // one program in six drops what it does not know
            there(key, edited(was.details(), "t", chance), chance.nextInt(6) == 0 ? "" : was.mark());
        }
    }

    private void deleteThere(SplittableRandom chance) {
        Key key = anyThere(chance);
        if (key != null) {
            there(key, null, "");
        }
    }

    /** A series is cut: what comes after goes on under a name of its own. */
    private void splitThere(SplittableRandom chance) {
        Key key = anyThere(chance);
        if (key == null) {
            return;
        }
        String name = "f" + files.size() + "s" + ++clock;
        files.put(name, new File());
        for (int i : List.copyOf(
                Objects.requireNonNull(files.get(key.file())).occurrences.keySet())) {
            Key old = new Key(key.file(), i);
            if (i >= key.occurrence() && !(ours.containsKey(old) && entry(old).detached())) {
                Standing was = standing(old);
                there(old, null, "");
                there(new Key(name, i), was.details(), "");
            }
        }
    }

    private void there(Key key, @Nullable Details details, String mark) {
        File file = files.computeIfAbsent(key.file(), f -> new File());
        Standing was = file.occurrences.get(key.occurrence());
        follow(key, was == null ? null : was.details(), details);
        put(file, key, details, mark);
    }

    private void put(File file, Key key, @Nullable Details details, String mark) {
        if (details == null) {
            file.occurrences.remove(key.occurrence());
        } else {
            file.occurrences.put(key.occurrence(), new Standing(details, mark, now()));
        }
        file.tag++;
        file.changedAt = ++clock;
    }

    // ---- a pass ----

    /** Settles what changed on either side since the last whole pass; a fault strikes the first meeting that is written. */
    boolean pass(Fault strikes, SplittableRandom chance) {
        fault = strikes;
        int until = clock;
        // a server may forget its token: then all of it counts as changed
        int since = chance.nextInt(8) == 0 ? 0 : token;
        Set<Key> keys = new TreeSet<>(java.util.Comparator.comparing(Key::file).thenComparing(Key::occurrence));
        keys.addAll(dirty);
        files.forEach((name, file) -> {
            if (file.changedAt > since) {
                file.occurrences.keySet().forEach(o -> keys.add(new Key(name, o)));
                ours.keySet().stream().filter(k -> k.file().equals(name)).forEach(keys::add);
            }
        });
        story.add("a pass with " + strikes + " over " + keys);
        boolean half = strikes != Fault.NONE && chance.nextInt(3) == 0;
        int left = half ? keys.size() / 2 : keys.size();
        for (Key key : keys) {
            if (left-- <= 0) {
                return false;
            }
            ours.computeIfAbsent(key, k -> new Entry<>(new Side<>(null, Instant.EPOCH), null, null, false, 1));
            long version = entry(key).version();
            try {
                switch (exchange.settle(key, preference)) {
                    case RECEIVED -> receipts++;
                    case LATER -> {
                        return false;
                    }
                    default -> {}
                }
            } catch (NoAnswer broken) {
                return false;
            }
            if (entry(key).version() <= version + 1) {
                dirty.remove(key);
            }
        }
        token = until;
        return true;
    }

    @Override
    public Found<Details> find(Key key) {
        File file = files.get(key.file());
        if (file == null || file.occurrences.isEmpty()) {
            return new Found<>(null, null, "", Instant.EPOCH);
        }
        Standing at = file.occurrences.get(key.occurrence());
        String tag = "e" + file.tag;
        return at == null
                ? new Found<>(null, tag, "", MONDAY.plus(Duration.ofMinutes(file.changedAt)))
                : new Found<>(at.details(), tag, at.mark(), at.changedAt());
    }

    @Override
    public boolean write(Key key, @Nullable Details details, @Nullable String tag, String mark) {
        Fault now = fault;
        fault = Fault.NONE;
        if (now == Fault.LOST_BEFORE) {
            throw new NoAnswer();
        }
        if (now == Fault.CHANGED_BETWEEN) {
            editThere(random);
        }
        File file = files.computeIfAbsent(key.file(), f -> new File());
        String stands = file.occurrences.isEmpty() ? null : "e" + file.tag;
        if (!Objects.equals(stands, tag)) {
            return false;
        }
        put(file, key, details, mark);
        writes++;
        story.add("wrote " + key + " " + values(details));
        if (now == Fault.LOST_AFTER) {
            if (random.nextBoolean()) {
                editThere(random);
            }
            throw new NoAnswer();
        }
        if (now == Fault.CHANGED_HERE_BETWEEN) {
            editHere(random);
        }
        return true;
    }

    @Override
    public Entry<Details> read(Key key) {
        return entry(key);
    }

    @Override
    public void note(Key key, List<Conflict<Details>> conflicts) {
        for (Conflict<Details> c : conflicts) {
            boolean new_ = journal.computeIfAbsent(key, k -> new HashSet<>()).add(c);
            // both of a conflict must have been entered by people on their own side, or a write of ours came back as a
            // change; where nothing is taken up, ours may be what it always was
            if (new_
                    && c.field() != null
                    && WORDS.contains(c.field())
                    && (preference.takesUp()
                                    && c.here().replaceAll("^.* |^[px]", "").startsWith("t")
                            || c.there().replaceAll("^.* |^[px]", "").startsWith("h"))) {
                problems.add("an echo: " + key + " " + c);
            }
        }
    }

    @Override
    public void sending(
            Key key,
            @Nullable Base<Details> base,
            @Nullable Sending<Details> sending,
            List<Conflict<Details>> conflicts) {
        note(key, conflicts);
        Entry<Details> e = entry(key);
        ours.put(key, new Entry<>(e.here(), base, sending, e.detached(), e.version()));
    }

    @Override
    public boolean agree(Key key, long version, @Nullable Details here, @Nullable Details agreed, boolean detached) {
        Entry<Details> e = entry(key);
        if (e.version() != version) {
            return false;
        }
        boolean same = Objects.equals(e.here().details(), here);
        Side<Details> side = same ? e.here() : new Side<>(here, now());
        story.add("agreed " + key + " " + (same ? "" : "here becomes " + values(here))
                + (detached ? " and detached" : ""));
        ours.put(key, new Entry<>(side, Base.of(agreed), null, detached, version + 1));
        return true;
    }

    // ---- the end ----

    /** Once nothing breaks any more: a few passes, and both sides agree. */
    void end() {
        SplittableRandom calm = new SplittableRandom(1);
        for (int i = 0; i < 3; i++) {
            if (!pass(Fault.NONE, calm)) {
                problems.add("a pass without faults does not come to its end");
            }
        }
        int before = writes + receipts;
        token = 0;
        pass(Fault.NONE, calm);
        if (writes + receipts != before) {
            problems.add("an exchange without end");
        }
        ours.forEach(this::check);
    }

    private boolean isOff(Key key, String guest) {
        return replaced.getOrDefault(key, Set.of()).contains("GUEST " + guest);
    }

    private void check(Key key, Entry<Details> entry) {
        Details theirs = find(key).details();
        Details mine = entry.here().details();
        if (!entry.detached() && !Objects.equals(mine, theirs)) {
            problems.add("the sides differ: " + key + "\n  here " + mine + "\n  there " + theirs);
        }
        Set<String> found = values(mine);
        found.addAll(values(theirs));
        found.addAll(replaced.getOrDefault(key, Set.of()));
        String noted = String.valueOf(journal.get(key));
        for (String value : entered.getOrDefault(key, Set.of())) {
            // whoever takes a guest off takes their answer along
            if (value.startsWith("ANSWER ") && isOff(key, value.split(" ")[1])) {
                continue;
            }
            String words = value.substring(value.indexOf(' ') + 1);
            // a guest who was asked there alone is put back off, and what they answered is kept with them
            boolean keptWithGuest = !preference.takesUp()
                    && noted.contains(
                            words.replace(' ', '=').toUpperCase(Locale.ROOT).replace("GT", "gt"));
            if (!found.contains(value) && !noted.contains(words) && !keptWithGuest) {
                problems.add("lost: " + value + " of " + key + "\n  journal " + noted);
            }
        }
        if (mine == null && theirs == null && entry.base() != null && !noted.contains(DELETED)) {
            problems.add("gone without a word: " + key);
        }
    }
}
