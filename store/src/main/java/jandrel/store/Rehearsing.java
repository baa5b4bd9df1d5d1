package jandrel.store;

import jandrel.core.decide.Decision;
import jandrel.core.decide.Rule;
import jandrel.core.decide.Verdict;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Exclusion;
import jandrel.core.item.Item;
import jandrel.core.policy.Covered;
import jandrel.core.policy.Policy;
import jandrel.core.rehearse.Draft;
import jandrel.core.rehearse.Effects;
import jandrel.core.rehearse.Turn;
import jandrel.core.timeline.Activities;
import jandrel.core.timeline.Activity;
import jandrel.core.timeline.Logged;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.BooleanSupplier;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Tells what a change of the rules would do to all that is known, without doing it: the same look-ups and the same decision as
 * capture, with the draft laid over them. It reads one snapshot, stops nobody, and writes nothing but a list of its own.
 */
@Component
public class Rehearsing {
    private static final int BATCH = 500;
    private final RehearsalMapper mapper;
    private final RecordMapper records;
    private final Recorder recorder;
    private final Cover.Mapped cover;
    private final Company company;
    private final IntakeMapper intake;
    private final Policies policies;
    private final Exclusions exclusions;
    private final Slices slices;

    /** Fetches what is not kept: asked with positions by source, it answers with items by position; some may be missing. */
    @FunctionalInterface
    public interface Fetch {
        Map<String, Item> items(int source, List<String> positions);
    }

    /** Is told how far it is. */
    @FunctionalInterface
    public interface Progress {
        void at(long done, long total);
    }

    Rehearsing(
            RehearsalMapper mapper,
            RecordMapper records,
            Recorder recorder,
            Cover.Mapped cover,
            Company company,
            IntakeMapper intake,
            Policies policies,
            Exclusions exclusions,
            Slices slices) {
        this.mapper = mapper;
        this.records = records;
        this.recorder = recorder;
        this.cover = cover;
        this.company = company;
        this.intake = intake;
        this.policies = policies;
        this.exclusions = exclusions;
        this.slices = slices;
    }

    /**
     * @param stop asked between batches; when it says so, what was added up so far comes back
     * @return what would become of everything that the draft touches
     */
    @Transactional(isolation = Isolation.REPEATABLE_READ)
    public Effects rehearse(Draft draft, Fetch fetch, Progress progress, BooleanSupplier stop) {
        mapper.begin();
        Map<UUID, Policy> moved = draft.policies().map(this::moved).orElse(Map.of());
        touch(draft, moved);
        long total = mapper.number();
        Effects effects = new Effects();
        progress.at(0, total);
        for (long done = 0; done < total && !stop.getAsBoolean(); done += BATCH) {
            batch(mapper.items(done, BATCH), draft, moved, fetch).forEach(effects::add);
            progress.at(Math.min(total, done + BATCH), total);
        }
        return effects;
    }

    /** The people who would be under another policy or another version of theirs, with it. */
    private Map<UUID, Policy> moved(List<Policy> wanted) {
        Map<UUID, Cover.Kept> now = new HashMap<>();
        cover.all().forEach(k -> now.put(k.person(), k));
        Map<UUID, Policy> moved = new HashMap<>();
        for (Covered.Person person : cover.people()) {
            Optional<Policy> after = Covered.of(person, wanted).map(Covered::policy);
            Cover.Kept was = now.get(person.id());
            if (after.isPresent()
                    && (was == null || !after.get().equals(policies.version(was.policy(), was.version())))) {
                moved.put(person.id(), after.get());
            }
        }
        return moved;
    }

    private void touch(Draft draft, Map<UUID, Policy> moved) {
        List<String> keys = new ArrayList<>();
        for (Exclusion e : draft.exclusions()) {
            if (e.kind().byKey()) {
                keys.add(e.what());
            } else {
                mapper.touchLike(Touched.by(e));
            }
        }
        draft.own().ifPresent(own -> keys.addAll(Company.difference(Set.copyOf(company.ownDomains()), own)));
        draft.freeMail().ifPresent(free -> keys.addAll(Company.difference(Set.copyOf(company.freeMail()), free)));
        if (!keys.isEmpty()) {
            mapper.touch(keys.toArray(String[]::new));
        }
        draft.included().forEach(mapper::touchExcluded);
        if (draft.own().isPresent() && !draft.own().get().containsAll(company.ownDomains())) {
            mapper.touchLeftOut(new String[] {Rule.ALONE.name(), Rule.INSIDE_ONLY.name()});
        }
        if (!moved.isEmpty()) {
            UUID[] people = moved.keySet().toArray(UUID[]::new);
            mapper.touchOf(people);
            mapper.touchLeftOutOf(Cover.reopened(Optional.empty(), Policy.first()), people);
        }
        mapper.numbered();
    }

    private List<Turn> batch(List<UUID> ids, Draft draft, Map<UUID, Policy> moved, Fetch fetch) {
        UUID[] items = ids.toArray(UUID[]::new);
        Map<UUID, List<RecordMapper.Stored>> byItem = new HashMap<>();
        records.sightings(items)
                .forEach(row -> byItem.computeIfAbsent(row.item(), i -> new ArrayList<>())
                        .add(row));
        boolean reopens =
                !moved.isEmpty() || !draft.included().isEmpty() || draft.own().isPresent();
        Map<UUID, Item> facts = facts(byItem.values(), reopens ? fetch : (source, positions) -> Map.of());
        DirectorySlice slice = slices.of(facts.values(), draft);
        Map<Integer, IntakeMapper.Standing> standings = standings(byItem.values());
        var rulings = recorder.rulings(items);
        List<Turn> turns = new ArrayList<>();
        byItem.forEach((item, rows) -> {
            List<Logged> before = new ArrayList<>();
            List<Logged> after = new ArrayList<>();
            List<Turn.Side> sides = new ArrayList<>();
            for (RecordMapper.Stored row : rows) {
                Decision was = Recorder.decision(row);
                Item fact = facts.get(row.id());
                Decision is = fact == null ? was : decide(row, fact, standings.get(row.source()), moved, slice);
                sides.add(new Turn.Side(row.id(), row.person(), was, is));
                add(row, fact, was, before);
                add(row, fact, is, after);
            }
            RecordMapper.Stored any = rows.get(0);
            Optional<Activity> now = Activities.combine(before, Optional.ofNullable(rulings.get(item)));
            Optional<Activity> then = Activities.combine(after, Optional.ofNullable(rulings.get(item)));
            turns.add(new Turn(item, any.kind(), any.at(), sides, now, then));
        });
        return turns;
    }

    private static void add(
            RecordMapper.Stored row,
            @org.jspecify.annotations.Nullable Item fact,
            Decision decision,
            List<Logged> into) {
        if (decision.verdict() == Verdict.LOGGED && fact != null) {
            into.add(new Logged(row.person(), fact, decision));
        }
    }

    private Decision decide(
            RecordMapper.Stored row,
            Item fact,
            IntakeMapper.@org.jspecify.annotations.Nullable Standing standing,
            Map<UUID, Policy> moved,
            DirectorySlice slice) {
        if (standing == null) {
            return Recorder.decision(row);
        }
        Policy policy = moved.get(row.person());
        if (policy == null && standing.policy() != null && standing.version() != null) {
            policy = policies.version(standing.policy(), standing.version());
        }
        return policy == null
                ? Recorder.decision(row)
                : new Standings.Standing(Standings.vantage(standing), policy).decide(fact, row.gone(), slice);
    }

    private Map<Integer, IntakeMapper.Standing> standings(Collection<List<RecordMapper.Stored>> rows) {
        Integer[] sources = rows.stream()
                .flatMap(List::stream)
                .map(RecordMapper.Stored::source)
                .distinct()
                .toArray(Integer[]::new);
        Map<Integer, IntakeMapper.Standing> standings = new HashMap<>();
        intake.standings(sources).forEach(s -> standings.put(s.source(), s));
        return standings;
    }

    /** By sighting: what is kept, and what is fetched for the purpose and not kept. */
    private Map<UUID, Item> facts(Collection<List<RecordMapper.Stored>> items, Fetch fetch) {
        Map<UUID, Item> facts = new HashMap<>();
        Map<Integer, Map<String, UUID>> wanted = new HashMap<>();
        for (List<RecordMapper.Stored> rows : items) {
            for (RecordMapper.Stored row : rows) {
                if (row.facts() != null) {
                    facts.put(row.id(), Json.item(row.kind(), row.facts()));
                } else if (!row.verdict().equals(Verdict.UNREADABLE.word()) && !row.gone()) {
                    wanted.computeIfAbsent(row.source(), s -> new HashMap<>()).put(row.position(), row.id());
                }
            }
        }
        wanted.forEach((source, positions) -> fetch.items(source, List.copyOf(positions.keySet()))
                .forEach((position, item) -> {
                    UUID id = positions.get(position);
                    if (id != null) {
                        facts.put(id, item);
                    }
                }));
        return facts;
    }
}
