package jandrel.service.rehearsal;

import jandrel.api.RehearsalApi.Counts;
import jandrel.api.RehearsalApi.Example;
import jandrel.api.RehearsalApi.Report;
import jandrel.api.RehearsalApi.Tally;
import jandrel.core.decide.Decision;
import jandrel.core.decide.Rule;
import jandrel.core.decide.Sentences;
import jandrel.core.item.Item;
import jandrel.core.rehearse.Draft;
import jandrel.core.rehearse.Effects;
import jandrel.core.rehearse.Turn;
import jandrel.core.rehearse.Turn.Effect;
import jandrel.core.timeline.Activity;
import jandrel.core.timeline.ActivityMerge;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.service.capture.Fetching;
import jandrel.store.kernel.Names;
import jandrel.store.rehearsal.Rehearsals;
import jandrel.store.rehearsal.Rehearsing;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Function;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** Runs rehearsals, one after the other, beside everything else. */
@Component
class Rehearser implements DisposableBean {
    private static final Logger LOG = LoggerFactory.getLogger(Rehearser.class);
    private static final int MOST_TALLIES = 100;
    private final Rehearsing rehearsing;
    private final Rehearsals rehearsals;
    private final Fetching fetching;
    private final Names names;
    private final JsonMapper json;
    private final TransactionTemplate beside;
    private final Set<UUID> stopped = ConcurrentHashMap.newKeySet();
    private final ExecutorService thread = Executors.newSingleThreadExecutor(work -> {
        Thread t = new Thread(work, "rehearse");
        t.setDaemon(true);
        return t;
    });

    Rehearser(
            Rehearsing rehearsing,
            Rehearsals rehearsals,
            Fetching fetching,
            Names names,
            JsonMapper json,
            PlatformTransactionManager transactions) {
        // how far it is shows while the rehearsal's own transaction goes on
        beside = new TransactionTemplate(transactions);
        beside.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        this.rehearsing = rehearsing;
        this.rehearsals = rehearsals;
        this.fetching = fetching;
        this.names = names;
        this.json = json;
    }

    void begin(UUID id, Draft draft, List<String> notes, Viewer viewer) {
        thread.execute(() -> run(id, draft, notes, viewer));
    }

    void stop(UUID id) {
        stopped.add(id);
    }

    private void run(UUID id, Draft draft, List<String> notes, Viewer viewer) {
        AtomicLong fetched = new AtomicLong();
        try {
            Effects effects = rehearsing.rehearse(
                    draft,
                    (source, positions) -> {
                        Map<String, Item> items = fetching.items(source, positions);
                        fetched.addAndGet(items.size());
                        return items;
                    },
                    (done, total) -> beside.executeWithoutResult(t -> rehearsals.at(id, done, total)),
                    () -> stopped.contains(id),
                    turn -> isReadable(turn, viewer));
            String state = stopped.remove(id) ? "stopped" : "done";
            rehearsals.ended(id, state, json.writeValueAsString(report(effects, fetched.get(), notes, viewer)), "");
        } catch (RuntimeException failed) {
            LOG.error("rehearsal {} failed", id, failed);
            rehearsals.ended(id, "failed", null, "something went wrong here; the service’s log says what");
        }
    }

    private Report report(Effects effects, long fetched, List<String> notes, Viewer viewer) {
        Map<UUID, String> people = names.people();
        return new Report(
                effects.items(),
                effects.decisions(),
                fetched,
                new Counts(
                        effects.activities(Effect.APPEARS),
                        effects.activities(Effect.VANISHES),
                        effects.activities(Effect.READERS),
                        effects.activities(Effect.LINKS)),
                tallies(effects.byPerson(), people::get),
                tallies(effects.byAccount(), names.accounts()::get),
                tallies(effects.byRule(), Rehearser::heading),
                effects.examples().stream().map(t -> example(t, viewer, people)).toList(),
                effects.hidesSome() ? more(notes) : notes);
    }

    private static List<String> more(List<String> notes) {
        List<String> all = new ArrayList<>(notes);
        all.add("Items that you may not read are counted only where at least " + Visibility.SEVERAL
                + " people have them.");
        return all;
    }

    /** All that it was and would be, at every source that shows it. */
    private static boolean isReadable(Turn turn, Viewer viewer) {
        return turn.sides().stream()
                .allMatch(side -> isOpen(side, side.before(), turn.before(), viewer)
                        && isOpen(side, side.after(), turn.after(), viewer));
    }

    private static String heading(Rule rule) {
        return switch (rule) {
            case NOBODY_MATCHED -> "nobody matched";
            case READ_BY_EVERYONE -> "read by everyone";
            case READ_BY_TEAM -> "read by the team and those on it";
            case READ_BY_THOSE_ON_IT -> "read by those on it";
            case READ_BY_OWNER -> "read by the owner alone";
            case PRIVATE_MEETING -> "marked private";
            default -> Sentences.heading(rule);
        };
    }

    private static <K> List<Tally> tallies(List<Effects.Tally<K>> all, Function<K, String> name) {
        return all.stream()
                .limit(MOST_TALLIES)
                .map(t -> new Tally(t.key().toString(), String.valueOf(name.apply(t.key())), counts(t.effects())))
                .toList();
    }

    private static Counts counts(Map<Effect, Long> effects) {
        return new Counts(
                effects.getOrDefault(Effect.APPEARS, 0L),
                effects.getOrDefault(Effect.VANISHES, 0L),
                effects.getOrDefault(Effect.READERS, 0L),
                effects.getOrDefault(Effect.LINKS, 0L));
    }

    /** Its trails name people, so they are for those who read the item in full as it is; all others get the outline. */
    private static Example example(Turn turn, Viewer viewer, Map<UUID, String> people) {
        Turn.Side side = turn.sides().stream()
                .filter(s -> !s.before().equals(s.after()))
                .findFirst()
                .orElse(turn.sides().get(0));
        return new Example(
                turn.item(),
                turn.kind(),
                turn.at(),
                people.getOrDefault(side.person(), ""),
                turn.effects().stream()
                        .map(e -> e.name().toLowerCase(Locale.ROOT))
                        .distinct()
                        .sorted()
                        .toList(),
                said(side, side.before(), turn.before(), viewer),
                said(side, side.after(), turn.after(), viewer));
    }

    private static List<String> said(Turn.Side side, Decision decision, List<Activity> standing, Viewer viewer) {
        if (!isOpen(side, decision, standing, viewer)) {
            return Sentences.outline(decision.verdict());
        }
        boolean own = side.person().equals(viewer.personOrNobody());
        return Sentences.of(
                decision.trail().stream().filter(r -> own || !r.isBlind()).toList());
    }

    private static boolean isOpen(Turn.Side side, Decision decision, List<Activity> standing, Viewer viewer) {
        return switch (decision.verdict()) {
            // what is left out names nobody
            case LEFT_OUT, UNREADABLE -> true;
            case WAITING -> Visibility.of(viewer, ActivityMerge.readers(decision, side.person())) == Visibility.FULL;
            case LOGGED ->
                standing.stream()
                        .flatMap(a -> a.faces().stream())
                        .filter(f -> f.copies().contains(side.sighting()))
                        .anyMatch(f -> Visibility.of(viewer, f.readers()) == Visibility.FULL);
        };
    }

    @Override
    public void destroy() {
        thread.shutdownNow();
    }
}
