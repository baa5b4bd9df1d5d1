package jandrel.store.timeline;

import jandrel.core.decide.OwnPart;
import jandrel.core.decide.Reason;
import jandrel.core.decide.Sentences;
import jandrel.core.decide.Verdict;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.timeline.ActivityMerge;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.PageCursor;
import jandrel.store.kernel.ReadTimeout;
import java.time.Instant;
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
    private static final int MOST_COUNTED = 1_000;
    private static final UUID LEAST = new UUID(0, 0);
    private final DecisionMapper mapper;
    private final Tallies.Mapped tallies;

    /**
     * A decision as one viewer gets it.
     *
     * @param itemId of the activity, where it stands on one; else of the decision itself
     * @param source empty for those who do not read it in full, unless it is their own; so is the position
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

    /**
     * Some decisions, and how many there are.
     *
     * @param total as far as it was counted
     * @param orMore whether there may be more than that
     */
    public record Page(List<Shown> shown, long total, boolean orMore) {}

    Decisions(DecisionMapper mapper, Tallies.Mapped tallies) {
        this.tallies = tallies;
        this.mapper = mapper;
    }

    /** A page with its number, of one moment. What is not kept as a tally is counted as far as {@value #MOST_COUNTED}. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Page counted(DecisionFilter filter, Viewer viewer, PageCursor before, int limit) {
        DecisionMapper.Query query = query(filter, viewer);
        PageCursor from = begin(filter, before);
        List<DecisionMapper.Row> rows = mapper.counted(query, from.at(), from.id(), limit, MOST_COUNTED + 1);
        long total = rows.isEmpty() ? count(filter, viewer) : rows.get(0).total();
        boolean orMore = !filter.isTallied() && total > MOST_COUNTED;
        return new Page(shown(rows, viewer), orMore ? MOST_COUNTED : total, orMore);
    }

    private long count(DecisionFilter filter, Viewer viewer) {
        return filter.isTallied()
                ? tallies.count(filter, viewer.oversight().limit())
                : mapper.count(query(filter, viewer), MOST_COUNTED + 1);
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Shown> page(DecisionFilter filter, Viewer viewer, PageCursor before, int limit) {
        PageCursor from = begin(filter, before);
        return shown(mapper.page(query(filter, viewer), from.at(), from.id(), limit), viewer);
    }

    private PageCursor begin(DecisionFilter filter, PageCursor before) {
        if (filter.isOfMany()) {
            mapper.byOnePlan();
        }
        return before.at().isBefore(filter.until()) ? before : new PageCursor(filter.until(), LEAST);
    }

    private static List<Shown> shown(List<DecisionMapper.Row> rows, Viewer viewer) {
        return rows.stream().map(row -> shown(row, viewer)).toList();
    }

    private static DecisionMapper.Query query(DecisionFilter filter, Viewer viewer) {
        return new DecisionMapper.Query(
                filter, viewer.oversight().limit(), Timelines.readsAnything(viewer), Timelines.ids(viewer));
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Optional<Shown> one(UUID id, Viewer viewer) {
        return some(List.of(id), viewer).stream().findFirst();
    }

    /** All decisions on the copies of one activity; those of people who are not seen to take part are for themselves. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Shown> of(UUID activity, Viewer viewer) {
        return some(mapper.of(activity), viewer);
    }

    /** The decisions on what stands in these files of a calendar, as far as the viewer sees them. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Shown> at(int source, Collection<String> hrefs, Viewer viewer) {
        return some(mapper.at(source, hrefs.toArray(String[]::new)), viewer);
    }

    /** Those of these that the viewer may list. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Shown> some(List<UUID> ids, Viewer viewer) {
        return ids.isEmpty()
                ? List.of()
                : mapper.some(ids.toArray(UUID[]::new), Timelines.ids(viewer)).stream()
                        .filter(row -> isOwn(row, viewer) || mayList(viewer, row))
                        .map(row -> shown(row, viewer))
                        .toList();
    }

    /** ItemPlace a logged item can be asked for again, its owner's mailbox first. For those alone who read it in full. */
    public List<ItemPlace> places(UUID activity, Viewer viewer) {
        return mapper.places(activity, Timelines.ids(viewer));
    }

    private static boolean isOwn(DecisionMapper.Row row, Viewer viewer) {
        return row.person().equals(viewer.personOrNobody());
    }

    /** Of those outside somebody's oversight, decisions on activities alone; nobody learns from one who has a blind copy. */
    private static boolean mayList(Viewer viewer, DecisionMapper.Row row) {
        return viewer.oversight().covers(row.person())
                || (row.activity() != null && !row.part().equals(OwnPart.BLIND.name()));
    }

    private static Shown shown(DecisionMapper.Row row, Viewer viewer) {
        Verdict verdict = Verdict.called(row.verdict());
        boolean own = isOwn(row, viewer);
        Visibility visibility = Visibility.of(viewer, readers(row));
        boolean full = visibility == Visibility.FULL;
        // the trail of what is left out names no person: it is open to all who get the decision at all
        boolean open = full || !verdict.keepsFacts();
        List<Reason> trail = open ? Json.trail(row.trail()) : List.of();
        if (!own) {
            trail = trail.stream().filter(reason -> !reason.isBlind()).toList();
        }
        Item item = full && row.facts() != null ? openly(Json.item(row.kind(), row.facts()), own) : null;
        return new Shown(
                row.id(),
                row.activity() == null ? row.id() : row.activity(),
                row.kind(),
                row.at(),
                row.person(),
                row.personName(),
                own || full ? row.sourceLabel() : "",
                own || full ? row.position() : "",
                verdict,
                visibility,
                item,
                trail,
                open ? Sentences.of(trail) : Sentences.outline(verdict),
                row.refetch(),
                row.activity() != null);
    }

    private static Item openly(Item item, boolean own) {
        return !own && item instanceof MailItem mail ? mail.openly(Set.of()) : item;
    }

    private static Readers readers(DecisionMapper.Row row) {
        Set<UUID> owner = Set.of(row.person());
        if (row.activity() != null) {
            return Timelines.readers(row.readers());
        }
        return row.closed()
                ? Readers.only(owner)
                : ActivityMerge.readers(
                        Sharing.valueOf(row.sharing()),
                        owner,
                        Set.of(row.insiders()),
                        row.team() == null ? Set.of() : Set.of(row.team()));
    }
}
