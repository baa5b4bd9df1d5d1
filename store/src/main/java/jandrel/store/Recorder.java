package jandrel.store;

import jandrel.core.decide.Decision;
import jandrel.core.decide.Verdict;
import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.timeline.Activities;
import jandrel.core.timeline.Activity;
import jandrel.core.timeline.Logged;
import jandrel.core.timeline.Ruling;
import jandrel.core.triage.Met;
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
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.datasource.DataSourceUtils;
import org.springframework.stereotype.Component;

/**
 * Records batches: decisions, and the activities that follow from them. Idempotent: recording the same batch again changes
 * nothing. Every activity is made anew from all sightings of its item, so the order of batches does not matter.
 */
@Component
class Recorder {
    private final RecordMapper mapper;
    private final DataSource dataSource;
    private volatile boolean plannable;

    Recorder(RecordMapper mapper, DataSource dataSource) {
        this.mapper = mapper;
        this.dataSource = dataSource;
    }

    /**
     * Inside the caller's transaction.
     *
     * @param move null when no cursor moves, as when deciding again
     * @throws Overtaken if another worker was faster
     */
    void record(List<Observed> seen, @Nullable CursorMove move) {
        if (move != null && mapper.moveCursor(move) != 1) {
            throw Overtaken.byAnother(move.source());
        }
        if (!seen.isEmpty()) {
            record(latest(seen));
        }
        if (!plannable && seen.size() > PIECEMEAL) {
            plannable = true;
            if (mapper.unknownToPlanner()) {
                mapper.analyse();
            }
        }
    }

    /** Makes the activities of these items anew from the sightings that are left. */
    void rebuild(UUID[] items) {
        write(List.of(), items, mapper.sightings(items), Set.of(), true);
    }

    private static Collection<Observed> latest(List<Observed> seen) {
        Map<UUID, Observed> latest = new LinkedHashMap<>();
        seen.forEach(o -> latest.put(o.sighting(), o));
        return latest.values();
    }

    private void record(Collection<Observed> seen) {
        UUID[] ids = seen.stream().map(Observed::sighting).toArray(UUID[]::new);
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
                    .map(Observed::sighting)
                    .toArray(UUID[]::new));
        }
        write(seen, touched, stored, Set.of(ids), false);
    }

    /** @param stood whether they may stand on timelines although no sighting of them is left */
    private void write(
            Collection<Observed> seen,
            UUID[] touched,
            List<RecordMapper.Stored> stored,
            Set<UUID> replaced,
            boolean stood) {
        Map<UUID, List<Logged>> logged = new HashMap<>();
        boolean known = stood;
        for (RecordMapper.Stored row : stored) {
            known |= row.verdict().equals(Verdict.LOGGED.word());
            if (!replaced.contains(row.id()) && row.verdict().equals(Verdict.LOGGED.word())) {
                logged.computeIfAbsent(row.item(), i -> new ArrayList<>()).add(logged(row));
            }
        }
        Map<UUID, Supplier<Content>> contents = new HashMap<>();
        for (Observed o : seen) {
            if (o.decision().verdict() == Verdict.LOGGED && o.facts() != null) {
                logged.computeIfAbsent(o.item(), i -> new ArrayList<>(1))
                        .add(new Logged(o.person(), o.facts(), o.decision()));
                if (o.content() != null) {
                    contents.put(versioned(o.item(), o.facts()), o.content());
                }
            }
        }
        Map<UUID, MeetingItem> before = known ? meetings(stored) : Map.of();
        if (known) {
            mapper.deleteActivities(touched);
        }
        Map<UUID, Activity> activities = new LinkedHashMap<>();
        Map<UUID, Ruling> rulings = rulings(touched);
        logged.forEach((item, all) -> Activities.combine(all, Optional.ofNullable(rulings.get(item)))
                .ifPresent(a -> activities.put(item, a)));
        before.forEach((item, was) -> {
            Activity now = activities.get(item);
            if (now != null && now.item() instanceof MeetingItem is && isMoved(was, is)) {
                mapper.moved(item, was.at(), was.ends(), is.at(), is.ends(), mover(item, seen, now));
            }
        });
        Connection connection = DataSourceUtils.getConnection(dataSource);
        try {
            Map<Item, String> written = new IdentityHashMap<>();
            CopyRows sightings = sightings(seen, written);
            Supplier<CopyRows> activityRows = Beside.made(() -> activities(activities, written));
            Supplier<CopyRows> linkRows = Beside.made(() -> links(activities));
            sightings.into(connection, SIGHTING);
            strangers(seen).into(connection, "stranger (sighting, address, domain, name, way, answers)");
            phones(seen).into(connection, "stranger_phone (sighting, phone)");
            wrote(seen).into(connection, "wrote (sighting, message)");
            bodies(touched, activities, contents, known, connection);
            activityRows.get().into(connection, ACTIVITY);
            linkRows.get().into(connection, "link (record, at, activity, kind, evidence)");
            tellNews(touched, activities, known);
        } catch (SQLException failed) {
            // the driver's message quotes the row: it may go no further
            throw new StoreException("a batch could not be written, SQL state " + failed.getSQLState());
        } finally {
            DataSourceUtils.releaseConnection(connection, dataSource);
        }
    }

    /** The meetings among these items, as they stood. */
    private static Map<UUID, MeetingItem> meetings(List<RecordMapper.Stored> stored) {
        Map<UUID, List<Logged>> logged = new HashMap<>();
        for (RecordMapper.Stored row : stored) {
            if (row.kind().equals("meeting") && row.verdict().equals(Verdict.LOGGED.word())) {
                logged.computeIfAbsent(row.item(), i -> new ArrayList<>(1)).add(logged(row));
            }
        }
        Map<UUID, MeetingItem> meetings = new HashMap<>();
        logged.forEach((item, all) ->
                Activities.combine(all).ifPresent(a -> meetings.put(item, (MeetingItem) a.item())));
        return meetings;
    }

    private static boolean isMoved(MeetingItem was, MeetingItem is) {
        return !was.at().equals(is.at()) || !was.ends().equals(is.ends());
    }

    /** Whose source showed it as it stands now. */
    private static UUID mover(UUID item, Collection<Observed> seen, Activity now) {
        return seen.stream()
                .filter(o -> o.item().equals(item) && now.item().equals(o.facts()))
                .map(Observed::person)
                .findFirst()
                .orElse(now.owners().get(0));
    }

    Map<UUID, Ruling> rulings(UUID[] items) {
        Map<UUID, Ruling> rulings = new HashMap<>();
        mapper.rulings(items)
                .forEach(r -> rulings.put(
                        r.item(), new Ruling(r.opens(), Set.of(r.readers()), r.byName(), r.readersNamed())));
        return rulings;
    }

    static Logged logged(RecordMapper.Stored row) {
        return new Logged(row.person(), Json.item(row.kind(), String.valueOf(row.facts())), decision(row));
    }

    static Decision decision(RecordMapper.Stored row) {
        return decision(row, false);
    }

    /** @param withoutTrail whether it may lack its trail, which costs more to read than all else */
    static Decision decision(RecordMapper.Stored row, boolean withoutTrail) {
        Verdict verdict = java.util.Arrays.stream(Verdict.values())
                .filter(v -> v.word().equals(row.verdict()))
                .findFirst()
                .orElseThrow();
        return new Decision(
                verdict,
                withoutTrail ? List.of() : Json.trail(row.trail()),
                row.links() == null ? List.of() : Json.links(row.links()),
                Sharing.valueOf(row.sharing()),
                Set.of(row.insiders()),
                row.team(),
                row.exclusion());
    }

    /** Bodies are kept by item and version, as a meeting's text changes with it. */
    private static UUID versioned(UUID item, Item facts) {
        return facts.version().isEmpty()
                ? item
                : new UUID(item.getMostSignificantBits() ^ facts.version().hashCode(), item.getLeastSignificantBits());
    }

    /** Only of what comes in piecemeal: nobody watches a backfill line by line, and each of these makes all commits wait in line. */
    private void tellNews(UUID[] touched, Map<UUID, Activity> activities, boolean known) {
        if (touched.length > PIECEMEAL || activities.isEmpty() && !known) {
            return;
        }
        Set<UUID> records = new HashSet<>();
        activities.values().forEach(a -> a.links().forEach(l -> records.add(l.record())));
        boolean vanished = known && activities.size() < touched.length;
        mapper.tell(News.CHANNEL, vanished ? News.MANY : News.words(records));
    }

    private static final int PIECEMEAL = 50;

    private static final String SIGHTING =
            "sighting (id, source, position, person, item, kind, at, verdict, rule, trail, links,"
                    + " sharing, insiders, team, gone, exclusion, facts, keys, refetch, hand, tagged, busy_until)";

    /** @param written the facts as JSON, which an activity of the same item needs once more */
    private static CopyRows sightings(Collection<Observed> seen, Map<Item, String> written) {
        CopyRows rows = new CopyRows();
        for (Observed o : seen) {
            Decision d = o.decision();
            Item facts = o.decision().verdict().keepsFacts() ? o.facts() : null;
            rows.cell(o.sighting())
                    .cell(o.source())
                    .cell(o.position())
                    .cell(o.person())
                    .cell(o.item())
                    .cell(o.kind());
            rows.cell(o.at()).cell(d.verdict().word());
            rows.cell(d.trail().get(d.trail().size() - 1).rule().name()).cell(Json.write(d.trail()));
            rows.cell(d.links().isEmpty() ? null : Json.write(d.links()))
                    .cell(d.sharing().name())
                    .ids(d.insiders());
            rows.cell(d.team())
                    .cell(o.gone())
                    .cell(d.exclusion())
                    .cell(facts == null ? null : written.computeIfAbsent(facts, Json::write));
            rows.texts(facts == null ? null : facts.keys()).cell(false);
            rows.cell(Hands.text(o.hand())).cell(o.tagged()).cell(busyUntil(o)).endRow();
        }
        return rows;
    }

    /** Of what is left out, too, its time is kept: whose time it takes has nothing to do with whose customer it is about. */
    private static @Nullable Instant busyUntil(Observed o) {
        return o.facts() instanceof MeetingItem meeting && meeting.takesTime() && !o.gone() ? meeting.ends() : null;
    }

    private static CopyRows strangers(Collection<Observed> seen) {
        CopyRows rows = new CopyRows();
        for (Observed o : seen) {
            for (Met met : o.dealings().strangers()) {
                rows.cell(o.sighting()).cell(met.address().toString()).cell(met.domain());
                rows.cell(met.name()).cell(met.way().name());
                rows.cell(met.answers().isEmpty() ? null : met.answers()).endRow();
            }
        }
        return rows;
    }

    private static CopyRows phones(Collection<Observed> seen) {
        CopyRows rows = new CopyRows();
        for (Observed o : seen) {
            if (o.phones() != null && o.decision().verdict().keepsFacts()) {
                o.phones().get().stream()
                        .distinct()
                        .forEach(phone -> rows.cell(o.sighting()).cell(phone).endRow());
            }
        }
        return rows;
    }

    /** What ours wrote to people outside, by its digest: so that it is found whose answer came from another address. */
    private static CopyRows wrote(Collection<Observed> seen) {
        CopyRows rows = new CopyRows();
        for (Observed o : seen) {
            if (!o.dealings().answerable().isEmpty()) {
                rows.cell(o.sighting()).cell(o.dealings().answerable()).endRow();
            }
        }
        return rows;
    }

    private static final String ACTIVITY =
            "activity (id, kind, at, ends, all_day, subject, people, facts, readers, owners, insiders, version, trail)";

    private static CopyRows activities(Map<UUID, Activity> activities, Map<Item, String> written) {
        CopyRows rows = new CopyRows();
        activities.forEach((id, a) -> {
            Item item = a.item();
            MeetingItem meeting = item instanceof MeetingItem m ? m : null;
            Instant ends = meeting == null ? null : meeting.ends();
            rows.cell(id).cell(Json.kind(item)).cell(item.at()).cell(ends).cell(meeting != null && meeting.allDay());
            rows.cell(item.subject()).cell(people(item)).cell(written.computeIfAbsent(item, Json::write));
            rows.ids(a.readers().everyone() ? null : a.readers().people());
            rows.ids(a.owners()).ids(a.insiders()).cell(item.version());
            rows.cell(a.trail().isEmpty() ? "[]" : Json.write(a.trail())).endRow();
        });
        return rows;
    }

    private static String people(Item item) {
        StringBuilder words = new StringBuilder();
        for (Party party : item.parties()) {
            words.append(party.name()).append(' ').append(party.address()).append(' ');
        }
        return words.length() > 20_000 ? words.substring(0, 20_000) : words.toString();
    }

    private static CopyRows links(Map<UUID, Activity> activities) {
        CopyRows rows = new CopyRows();
        activities.forEach((id, a) -> a.links()
                .forEach(link -> rows.cell(link.record())
                        .cell(a.item().at())
                        .cell(id)
                        .cell(link.kind().word())
                        .cell(link.evidence().name())
                        .endRow()));
        return rows;
    }

    /** Writes what is at hand, keeps what still fits, asks for the rest, and lets go of what no longer stands anywhere. */
    private void bodies(
            UUID[] touched,
            Map<UUID, Activity> activities,
            Map<UUID, Supplier<Content>> contents,
            boolean known,
            Connection connection)
            throws SQLException {
        Map<UUID, RecordMapper.BodyState> kept = new HashMap<>();
        if (known) {
            mapper.bodies(touched).forEach(b -> kept.put(b.activity(), b));
        }
        CopyRows rows = new CopyRows();
        List<UUID> wanted = new ArrayList<>();
        for (Map.Entry<UUID, Activity> entry : activities.entrySet()) {
            UUID id = entry.getKey();
            Item item = entry.getValue().item();
            Supplier<Content> made = contents.get(versioned(id, item));
            RecordMapper.BodyState old = kept.get(id);
            if (made != null) {
                Content content = made.get();
                rows.cell(id)
                        .cell(item.version())
                        .cell("here")
                        .cell(content.text())
                        .cell(content.html());
                rows.cell(Json.write(content.attachments())).endRow();
            } else if (old != null
                    && old.version().equals(item.version())
                    && !old.state().equals("wanted")) {
                kept.remove(id);
            } else {
                wanted.add(id);
                rows.cell(id)
                        .cell(item.version())
                        .cell("wanted")
                        .cell("")
                        .cell("")
                        .cell("[]")
                        .endRow();
            }
        }
        if (!kept.isEmpty()) {
            mapper.deleteBodies(kept.keySet().toArray(UUID[]::new));
        }
        rows.into(connection, "body (activity, version, state, text, html, attachments)");
        if (!wanted.isEmpty()) {
            mapper.wantBodies(wanted.toArray(UUID[]::new));
        }
    }
}
