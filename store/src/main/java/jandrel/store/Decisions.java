package jandrel.store;

import jandrel.core.decide.Reason;
import jandrel.core.decide.Sentences;
import jandrel.core.decide.Verdict;
import jandrel.core.item.Item;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.timeline.Activities;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Reads decisions. A rep gets those at their own sources and those on activities; everybody else gets all. Who and what is on an
 * item, and so its trail where that names people, is for those who read the item in full.
 */
@Component
public class Decisions {
    private final DecisionMapper mapper;

    /**
     * Empty and null members do not filter.
     *
     * @param address an address, or a domain with a leading {@code @}
     */
    public record Filter(
            String verdict,
            String kind,
            String rule,
            @Nullable UUID person,
            @Nullable UUID exclusion,
            @Nullable UUID item,
            Instant from,
            Instant until,
            String address) {}

    /**
     * A decision as one viewer gets it.
     *
     * @param item null unless it is kept and the viewer reads it in full
     * @param trail empty for those who do not read it in full
     * @param pending whether its source is to be asked once more
     * @param activity whether there is an activity of the item's id
     */
    public record Shown(
            UUID id,
            UUID itemId,
            String kind,
            Instant at,
            UUID person,
            String personName,
            String source,
            String position,
            Verdict verdict,
            Visibility visibility,
            @Nullable Item item,
            List<Reason> trail,
            List<String> sentences,
            boolean pending,
            boolean activity) {}

    /** @param rule empty unless something was left out or unreadable */
    public record Sum(String kind, String verdict, String rule, long count) {}

    Decisions(DecisionMapper mapper) {
        this.mapper = mapper;
    }

    @Transactional(readOnly = true)
    public List<Shown> page(Filter filter, Viewer viewer, Timelines.Cursor before, int limit) {
        return mapper
                .page(
                        filter,
                        onlyOwn(viewer),
                        Timelines.readsAnything(viewer),
                        Timelines.ids(viewer),
                        before.at(),
                        before.id(),
                        limit)
                .stream()
                .map(row -> shown(row, viewer))
                .toList();
    }

    public long count(Filter filter, Viewer viewer) {
        return mapper.count(filter, onlyOwn(viewer), Timelines.readsAnything(viewer), Timelines.ids(viewer));
    }

    @Transactional(readOnly = true)
    public Optional<Shown> one(UUID id, Viewer viewer) {
        return mapper.one(id)
                .filter(row -> row.onTimeline() || mayList(viewer, row.person()))
                .map(row -> shown(row, viewer));
    }

    /** All decisions on one item. */
    @Transactional(readOnly = true)
    public List<Shown> ofItem(UUID item, Viewer viewer) {
        return mapper.ofItem(item).stream()
                .map(id -> one(id, viewer))
                .flatMap(Optional::stream)
                .toList();
    }

    /** The decisions on what stands in these files of a calendar, as far as the viewer sees them. */
    public List<Shown> at(int source, Collection<String> hrefs, Viewer viewer) {
        return mapper.at(source, hrefs.toArray(String[]::new)).stream()
                .map(id -> one(id, viewer))
                .flatMap(Optional::stream)
                .toList();
    }

    /** Where an item lies. */
    public record Where(int source, String position) {}

    /** Where a logged item can be asked for again, its owner's mailbox first. For those alone who read it in full. */
    public List<Where> places(UUID item) {
        return mapper.places(item);
    }

    /** How many decisions of each sort there are; a rep's own alone, for a rep. */
    public List<Sum> sums(Viewer viewer) {
        return mapper.sums(onlyOwn(viewer)).stream()
                .map(s -> new Sum(s.kind(), s.verdict(), s.rule(), s.count()))
                .toList();
    }

    /** How many activities stand on timelines. Nobody is denied the outline of one, so nobody is denied the number. */
    public long activities() {
        return mapper.activities();
    }

    /** A rep gets their own alone. */
    static @Nullable UUID onlyOwn(Viewer viewer) {
        return viewer.role() == Role.REP ? viewer.personOrNobody() : null;
    }

    private static boolean mayList(Viewer viewer, UUID person) {
        UUID only = onlyOwn(viewer);
        return only == null || only.equals(person);
    }

    private static Shown shown(DecisionMapper.Row row, Viewer viewer) {
        Verdict verdict = Arrays.stream(Verdict.values())
                .filter(v -> v.word().equals(row.verdict()))
                .findFirst()
                .orElseThrow();
        Visibility visibility = Visibility.of(viewer, readers(row));
        // the trail of what is left out names no person: it is open to all who get the decision at all
        boolean open = visibility == Visibility.FULL || !verdict.keepsFacts();
        List<Reason> trail = open ? Json.trail(row.trail()) : List.of();
        Item item = visibility == Visibility.FULL && row.facts() != null ? Json.item(row.kind(), row.facts()) : null;
        return new Shown(
                row.id(),
                row.item(),
                row.kind(),
                row.at(),
                row.person(),
                row.personName(),
                row.sourceLabel(),
                row.position(),
                verdict,
                visibility,
                item,
                trail,
                open ? Sentences.of(trail) : Sentences.outline(verdict),
                row.refetch(),
                row.onTimeline());
    }

    private static Readers readers(DecisionMapper.Row row) {
        return row.onTimeline()
                ? Timelines.readers(row.readers())
                : Activities.readers(
                        Sharing.valueOf(row.sharing()),
                        Set.of(row.person()),
                        Set.of(row.insiders()),
                        row.team() == null ? Set.of() : Set.of(row.team()));
    }
}
