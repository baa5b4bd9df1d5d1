package jandrel.store.capture;

import jandrel.core.decide.Decision;
import jandrel.core.decide.OwnPart;
import jandrel.core.decide.Verdict;
import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.timeline.Activity;
import jandrel.core.timeline.ActivityMerge;
import jandrel.core.timeline.Face;
import jandrel.core.timeline.Logged;
import jandrel.core.timeline.Ruling;
import jandrel.core.triage.Met;
import jandrel.core.visibility.Readers;
import jandrel.store.kernel.Async;
import jandrel.store.kernel.CopyRows;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.News;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.StoreException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Component;

/**
 * Records batches: decisions, and the activities that follow from them. Idempotent: recording the same batch again changes
 * nothing. Every activity is made anew from all sightings of its item, so the order of batches does not matter.
 */
@Component
public class Recorder {
    private final RecordMapper mapper;
    private final DataSource dataSource;
    private final ItemKeys keys;
    private final Outbox outbox;
    private final VerdictChanges changes;
    private volatile boolean plannable;

    Recorder(RecordMapper mapper, DataSource dataSource, ItemKeys keys, Outbox outbox, VerdictChanges changes) {
        this.changes = changes;
        this.outbox = outbox;
        this.keys = keys;
        this.mapper = mapper;
        this.dataSource = dataSource;
    }

    /**
     * Inside the caller's transaction.
     *
     * @param move null when no cursor moves, as when deciding again
     * @throws CursorConflict if another worker was faster
     */
    void record(List<DecidedItem> seen, @Nullable CursorMove move) {
        record(seen, null, move);
    }

    /** @param rows of all that is seen, where they were laid out before; null to do that now */
    void record(List<DecidedItem> seen, @Nullable Rows rows, @Nullable CursorMove move) {
        if (move != null && mapper.moveCursor(move) != 1) {
            throw CursorConflict.byAnother(move.source());
        }
        if (!seen.isEmpty()) {
            Collection<DecidedItem> latest = latest(seen);
            record(latest, rows != null && rows.of() == latest.size() ? rows : Rows.of(latest));
        }
        if (!plannable && seen.size() > PIECEMEAL) {
            plannable = true;
            if (mapper.unknownToPlanner()) {
                mapper.analyse();
            }
        }
    }

    /** Makes the activities of these items anew from the sightings that are left. */
    public void rebuild(UUID[] items) {
        write(List.of(), Rows.of(List.of()), items, mapper.sightings(items), Set.of(), true);
    }

    private static Collection<DecidedItem> latest(List<DecidedItem> seen) {
        Map<UUID, DecidedItem> latest = new LinkedHashMap<>();
        seen.forEach(o -> latest.put(o.sighting(), o));
        return latest.values();
    }

    /**
     * What goes into the database of decisions alone, whatever else is known of their items.
     *
     * @param of how many decisions
     * @param written the facts as JSON, which an activity of the same item needs once more
     */
    record Rows(int of, CopyRows sightings, CopyRows strangers, CopyRows wrote, IdentityHashMap<Item, String> written) {
        static Rows of(Collection<DecidedItem> seen) {
            IdentityHashMap<Item, String> written = new IdentityHashMap<>();
            return new Rows(
                    seen.size(),
                    Recorder.sightings(seen, written),
                    Recorder.strangers(seen),
                    Recorder.wrote(seen),
                    written);
        }
    }

    private void record(Collection<DecidedItem> seen, Rows rows) {
        UUID[] ids = seen.stream().map(DecidedItem::sighting).toArray(UUID[]::new);
        Set<UUID> items = new HashSet<>();
        seen.forEach(o -> items.add(o.item()));
        // a position can hold another item than before: the one that was there loses a sighting
        List<RecordMapper.Placed> before = mapper.placed(ids);
        before.forEach(p -> items.add(p.item()));
        UUID[] touched = items.toArray(UUID[]::new);
        mapper.lock(touched);
        List<RecordMapper.Stored> stored = mapper.sightings(touched);
        if (!before.isEmpty()) {
            mapper.deleteSightings(ids);
            mapper.forgetPhones(seen.stream()
                    .filter(o -> o.phones() != null || !o.decision().verdict().keepsFacts())
                    .map(DecidedItem::sighting)
                    .toArray(UUID[]::new));
        }
        write(seen, rows, touched, stored, Set.of(ids), false);
        mark(seen, stored);
        changes.note(before, seen);
    }

    /** Mailboxes get the keyword of what is logged now, and lose that of what was. */
    private void mark(Collection<DecidedItem> seen, List<RecordMapper.Stored> stored) {
        if (seen.stream().noneMatch(DecidedItem::marked)) {
            return;
        }
        Set<UUID> before = new HashSet<>();
        for (RecordMapper.Stored row : stored) {
            if (row.verdict().equals(Verdict.LOGGED.word())) {
                before.add(row.id());
            }
        }
        seen.stream()
                .filter(o -> o.marked()
                        && before.contains(o.sighting()) != (o.decision().verdict() == Verdict.LOGGED))
                .collect(Collectors.groupingBy(
                        DecidedItem::source, Collectors.mapping(DecidedItem::sighting, Collectors.toList())))
                .forEach((source, ids) -> outbox.addAll(Kind.KEYWORD, source.toString(), ids));
    }

    /** @param stood whether they may stand on timelines although no sighting of them is left */
    private void write(
            Collection<DecidedItem> seen,
            Rows rows,
            UUID[] touched,
            List<RecordMapper.Stored> stored,
            Set<UUID> replaced,
            boolean stood) {
        boolean known = stood;
        for (RecordMapper.Stored row : stored) {
            known |= row.verdict().equals(Verdict.LOGGED.word());
        }
        Texts texts = new Texts(keys, known ? mapper.faces(touched) : List.of());
        Map<UUID, List<Logged>> logged = logged(seen, stored, replaced, texts);
        Map<UUID, List<Activity>> before = known ? meetings(stored) : Map.of();
        if (known) {
            mapper.deleteActivities(touched);
        }
        Map<UUID, List<Activity>> activities = new LinkedHashMap<>();
        Map<UUID, Map<UUID, Ruling>> rulings = rulings(touched);
        logged.forEach((item, all) ->
                activities.put(item, ActivityMerge.combine(item, all, rulings.getOrDefault(item, Map.of()))));
        before.forEach((item, was) -> noteMoves(item, was, activities.getOrDefault(item, List.of()), seen));
        Connection connection = DataSourceUtils.getConnection(dataSource);
        try {
            Supplier<CopyRows> activityRows = Async.made(() -> activities(activities, texts, rows.written()));
            Supplier<CopyRows> linkRows = Async.made(() -> links(activities));
            rows.sightings().into(connection, SIGHTING);
            rows.strangers().into(connection, "stranger (sighting, address, domain, name, way, answers, blind)");
            phones(seen).into(connection, "stranger_phone (sighting, phone)");
            rows.wrote().into(connection, "wrote (sighting, message)");
            texts.write(touched, activities, known, mapper, connection);
            activityRows.get().into(connection, ACTIVITY);
            linkRows.get().into(connection, "link (record, at, activity, kind, evidence, blind)");
            if (known) {
                mapper.indexAnew(touched);
            }
            tellNews(touched, activities, known);
        } catch (SQLException failed) {
            // the driver's message quotes the row: it may go no further
            throw new StoreException(
                    "a batch could not be written, SQL state " + failed.getSQLState(),
                    String.valueOf(failed.getSQLState()));
        } finally {
            DataSourceUtils.releaseConnection(connection, dataSource);
        }
    }

    /** By what they name themselves by. */
    private static Map<UUID, List<Logged>> logged(
            Collection<DecidedItem> seen, List<RecordMapper.Stored> stored, Set<UUID> replaced, Texts texts) {
        Map<UUID, List<Logged>> logged = new HashMap<>();
        for (RecordMapper.Stored row : stored) {
            if (!replaced.contains(row.id()) && row.verdict().equals(Verdict.LOGGED.word())) {
                logged.computeIfAbsent(row.item(), i -> new ArrayList<>()).add(logged(row, texts.of(row.id())));
            }
        }
        Map<UUID, List<DecidedItem>> fresh = new LinkedHashMap<>();
        for (DecidedItem o : seen) {
            if (o.decision().verdict() == Verdict.LOGGED && o.facts() != null) {
                fresh.computeIfAbsent(o.item(), i -> new ArrayList<>(1)).add(o);
                if (o.content() != null) {
                    texts.made(o.sighting(), o.item(), o.content());
                }
            }
        }
        fresh.forEach((item, all) -> {
            List<Logged> copies = logged.computeIfAbsent(item, i -> new ArrayList<>(1));
            // the text of what is seen once is waited for as late as may be
            boolean several = copies.size() + all.size() > 1;
            all.forEach(o -> copies.add(new Logged(
                    o.sighting(),
                    o.person(),
                    Objects.requireNonNull(o.facts()),
                    several ? texts.of(o.sighting()) : null,
                    o.decision())));
        });
        return logged;
    }

    /** The meetings among these, as they stood. */
    private static Map<UUID, List<Activity>> meetings(List<RecordMapper.Stored> stored) {
        Map<UUID, List<Logged>> logged = new HashMap<>();
        for (RecordMapper.Stored row : stored) {
            if (row.kind().equals("meeting") && row.verdict().equals(Verdict.LOGGED.word())) {
                logged.computeIfAbsent(row.item(), i -> new ArrayList<>(1)).add(logged(row, null));
            }
        }
        Map<UUID, List<Activity>> meetings = new HashMap<>();
        logged.forEach((item, all) -> meetings.put(item, ActivityMerge.combine(item, all, Map.of())));
        return meetings;
    }

    private void noteMoves(UUID item, List<Activity> before, List<Activity> after, Collection<DecidedItem> seen) {
        for (Activity was : before) {
            for (Activity is : after) {
                if (is.hasCopyOf(was)
                        && was.item() instanceof MeetingItem from
                        && is.item() instanceof MeetingItem to
                        && isMoved(from, to)) {
                    Optional<DecidedItem> mover = mover(item, seen, is);
                    mapper.moved(
                            item,
                            from.at(),
                            from.ends(),
                            to.at(),
                            to.ends(),
                            is.people().toArray(UUID[]::new),
                            mover.map(DecidedItem::person).orElse(is.owners().get(0)),
                            mover.map(DecidedItem::source).orElse(0));
                }
            }
        }
    }

    private static boolean isMoved(MeetingItem was, MeetingItem is) {
        return !was.at().equals(is.at()) || !was.ends().equals(is.ends());
    }

    /** By whose source it stands as it does now. */
    private static Optional<DecidedItem> mover(UUID item, Collection<DecidedItem> seen, Activity now) {
        return seen.stream()
                .filter(o -> o.item().equals(item) && now.item().equals(o.facts()))
                .findFirst();
    }

    public Map<UUID, Map<UUID, Ruling>> rulings(UUID[] items) {
        Map<UUID, Map<UUID, Ruling>> rulings = new HashMap<>();
        mapper.rulings(items)
                .forEach(r -> rulings.computeIfAbsent(r.item(), i -> new TreeMap<>())
                        .put(r.byPerson(), new Ruling(r.opens(), Set.of(r.readers()), r.byName(), r.readersNamed())));
        return rulings;
    }

    public static Logged logged(RecordMapper.Stored row, @Nullable UUID content) {
        return new Logged(
                row.id(), row.person(), Json.item(row.kind(), String.valueOf(row.facts())), content, decision(row));
    }

    public static Decision decision(RecordMapper.Stored row) {
        return decision(row, false);
    }

    /** @param withoutTrail whether it may lack its trail, which costs more to read than all else */
    public static Decision decision(RecordMapper.Stored row, boolean withoutTrail) {
        Verdict verdict = Verdict.called(row.verdict());
        return new Decision(
                verdict,
                withoutTrail ? List.of() : Json.trail(row.trail()),
                row.links() == null ? List.of() : Json.links(row.links()),
                Sharing.valueOf(row.sharing()),
                Set.of(row.insiders()),
                row.team(),
                row.exclusion(),
                OwnPart.valueOf(row.part()));
    }

    /** Only of what comes in piecemeal: nobody watches a backfill line by line, and each of these makes all commits wait in line. */
    private void tellNews(UUID[] touched, Map<UUID, List<Activity>> activities, boolean known) {
        if (touched.length > PIECEMEAL || (activities.isEmpty() && !known)) {
            return;
        }
        Set<UUID> records = new HashSet<>();
        activities.values().forEach(all -> all.forEach(a -> a.links().forEach(l -> records.add(l.record()))));
        boolean vanished = known && activities.size() < touched.length;
        mapper.announce(vanished ? News.MANY : News.words(records));
    }

    private static final int PIECEMEAL = 50;

    private static final String SIGHTING =
            "sighting (id, source, position, person, item, kind, at, verdict, rule, trail, links,"
                    + " sharing, insiders, team, gone, exclusion, facts, keys, refetch, hand, busy_until, part)";

    /** @param written the facts as JSON, which an activity of the same item needs once more */
    private static CopyRows sightings(Collection<DecidedItem> seen, IdentityHashMap<Item, String> written) {
        CopyRows rows = new CopyRows();
        for (DecidedItem o : seen) {
            Decision d = o.decision();
            Item facts = o.decision().verdict().keepsFacts() ? o.facts() : null;
            rows.cell(o.sighting())
                    .cell(o.source())
                    .cell(o.position())
                    .cell(o.person())
                    .cell(o.item())
                    .cell(o.kind());
            rows.cell(o.at()).cell(d.verdict().word());
            rows.cell(o.rule().name()).cell(Json.write(d.trail()));
            rows.cell(d.links().isEmpty() ? null : Json.write(d.links()))
                    .cell(d.sharing().name())
                    .ids(d.insiders());
            rows.cell(d.team())
                    .cell(o.gone())
                    .cell(d.exclusion())
                    .cell(facts == null ? null : written.computeIfAbsent(facts, Json::write));
            rows.texts(facts == null ? null : facts.keys()).cell(false);
            rows.cell(Hands.text(o.hand())).cell(busyUntil(o));
            rows.cell(d.part().name()).endRow();
        }
        return rows;
    }

    /** Of what is left out, too, its time is kept: whose time it takes has nothing to do with whose customer it is about. */
    private static @Nullable Instant busyUntil(DecidedItem o) {
        return o.facts() instanceof MeetingItem meeting && meeting.takesTime() && !o.gone() ? meeting.ends() : null;
    }

    private static CopyRows strangers(Collection<DecidedItem> seen) {
        CopyRows rows = new CopyRows();
        for (DecidedItem o : seen) {
            for (Met met : o.dealings().strangers()) {
                rows.cell(o.sighting()).cell(met.address().toString()).cell(met.domain());
                rows.cell(met.name()).cell(met.way().name());
                rows.cell(met.answers().isEmpty() ? null : met.answers())
                        .cell(met.blind())
                        .endRow();
            }
        }
        return rows;
    }

    private static CopyRows phones(Collection<DecidedItem> seen) {
        CopyRows rows = new CopyRows();
        for (DecidedItem o : seen) {
            if (o.phones() != null && o.decision().verdict().keepsFacts()) {
                o.phones().get().stream()
                        .distinct()
                        .forEach(phone -> rows.cell(o.sighting()).cell(phone).endRow());
            }
        }
        return rows;
    }

    /** What ours wrote to people outside, by its digest: so that it is found whose answer came from another address. */
    private static CopyRows wrote(Collection<DecidedItem> seen) {
        CopyRows rows = new CopyRows();
        for (DecidedItem o : seen) {
            if (!o.dealings().answerable().isEmpty()) {
                rows.cell(o.sighting()).cell(o.dealings().answerable()).endRow();
            }
        }
        return rows;
    }

    private static final String ACTIVITY =
            "activity (id, item, face, faces, kind, at, ends, all_day, subject, people, facts,"
                    + " readers, owners, insiders, version, trail, mine, elsewhere, rivals, copies, content, text, authors)";

    private static CopyRows activities(
            Map<UUID, List<Activity>> activities, Texts texts, IdentityHashMap<Item, String> written) {
        CopyRows rows = new CopyRows();
        activities.forEach((item, all) -> all.forEach(a -> {
            for (int i = 0; i < a.faces().size(); i++) {
                row(item, a, i, texts, written, rows);
            }
        }));
        return rows;
    }

    private static void row(
            UUID key, Activity a, int number, Texts texts, IdentityHashMap<Item, String> written, CopyRows rows) {
        Face face = a.faces().get(number);
        Item item = face.item();
        MeetingItem meeting = item instanceof MeetingItem m ? m : null;
        Instant ends = meeting == null ? null : meeting.ends();
        rows.cell(a.id()).cell(key).cell(number).cell(a.faces().size());
        rows.cell(Json.kind(item)).cell(item.at()).cell(ends).cell(meeting != null && meeting.allDay());
        rows.cell(item.subject()).cell(people(item)).cell(written.computeIfAbsent(item, Json::write));
        rows.ids(people(face.readers())).ids(a.owners()).ids(a.insiders()).cell(item.version());
        rows.cell(face.trail().isEmpty() ? "[]" : Json.write(face.trail()));
        rows.ids(face.mine()).ids(face.elsewhere()).ids(people(face.rivals())).ids(face.copies());
        UUID content = texts.of(face);
        rows.cell(content).cell(texts.state(face, content)).ids(face.authors()).endRow();
    }

    private static @Nullable Set<UUID> people(Readers readers) {
        return readers.everyone() ? null : readers.people();
    }

    private static String people(Item item) {
        StringBuilder words = new StringBuilder();
        for (Party party : item.parties()) {
            if (party.part() == Party.Part.BCC) {
                // nobody may find out by searching who has a blind copy
                continue;
            }
            words.append(party.name()).append(' ').append(party.address()).append(' ');
        }
        return words.length() > 20_000 ? words.substring(0, 20_000) : words.toString();
    }

    private static CopyRows links(Map<UUID, List<Activity>> activities) {
        CopyRows rows = new CopyRows();
        activities
                .values()
                .forEach(all -> all.forEach(a -> a.links()
                        .forEach(link -> rows.cell(link.record())
                                .cell(a.item().at())
                                .cell(a.id())
                                .cell(link.kind().word())
                                .cell(link.evidence().name())
                                .cell(link.blind())
                                .endRow())));
        return rows;
    }
}
