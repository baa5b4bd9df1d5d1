package jandrel.core.measures;

import jandrel.core.timeline.Standing;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** All meetings with accounts, and all opportunities through time, so that what changed takes the place of what was. Never changed itself. */
public final class SellingHistory {
    public static final SellingHistory NONE = new SellingHistory(Map.of(), Map.of(), Map.of());
    private final Map<UUID, Meetings> meetings;
    private final Map<UUID, Deal> deals;
    private final Map<UUID, List<Deal>> dealsByAccount;

    /**
     * With one account.
     *
     * @param items the first halves of their items' ids, side by side: to look whether there is one of them costs next to nothing
     * @param haveFaces whether there are some of which there are several faces
     */
    private record Meetings(List<MetAccount> inOrder, long[] items, boolean haveFaces) {
        static Meetings of(Stream<MetAccount> some) {
            List<MetAccount> inOrder = some.sorted(MetAccount.IN_ORDER).toList();
            return new Meetings(
                    inOrder,
                    inOrder.stream()
                            .mapToLong(m -> m.item().getMostSignificantBits())
                            .toArray(),
                    inOrder.stream().anyMatch(m -> m.face() != null));
        }

        /** @param sorted the first halves of their ids */
        boolean mayHaveOneOf(long[] sorted) {
            for (long item : items) {
                if (Arrays.binarySearch(sorted, item) >= 0) {
                    return true;
                }
            }
            return false;
        }
    }

    private SellingHistory(Map<UUID, Meetings> meetings, Map<UUID, Deal> deals, Map<UUID, List<Deal>> dealsByAccount) {
        this.meetings = meetings;
        this.deals = deals;
        this.dealsByAccount = dealsByAccount;
    }

    /**
     * With meetings and opportunities as they are now.
     *
     * @param items whose meetings changed, came or went
     * @param met all that there is of those items
     * @param opportunities which changed, came or went
     * @param now those of them that there are
     */
    public SellingHistory with(Set<UUID> items, List<MetAccount> met, Set<UUID> opportunities, List<Deal> now) {
        Map<UUID, Meetings> metNow = items.isEmpty() && met.isEmpty() ? meetings : meetings(items, met);
        if (opportunities.isEmpty() && now.isEmpty()) {
            return new SellingHistory(metNow, deals, dealsByAccount);
        }
        Map<UUID, Deal> all = new HashMap<>(deals);
        Map<UUID, List<Deal>> byAccount = new HashMap<>(dealsByAccount);
        opportunities.forEach(id -> {
            Deal was = all.remove(id);
            if (was != null) {
                byAccount.computeIfPresent(
                        account(was),
                        (a, some) ->
                                some.stream().filter(d -> !d.id().equals(id)).toList());
            }
        });
        now.forEach(d -> all.put(d.id(), d));
        now.stream()
                .collect(Collectors.groupingBy(SellingHistory::account))
                .forEach((account, more) -> byAccount.merge(
                        account,
                        inOrder(more.stream()),
                        (some, others) -> inOrder(Stream.concat(some.stream(), others.stream()))));
        return new SellingHistory(metNow, all, byAccount);
    }

    private static List<Deal> inOrder(Stream<Deal> some) {
        return some.sorted(Comparator.comparing(Deal::opened).thenComparing(Deal::id))
                .toList();
    }

    private Map<UUID, Meetings> meetings(Set<UUID> items, List<MetAccount> met) {
        Map<UUID, Meetings> all = new HashMap<>(meetings);
        if (!items.isEmpty()) {
            long[] sorted = items.stream()
                    .mapToLong(UUID::getMostSignificantBits)
                    .sorted()
                    .toArray();
            all.replaceAll((account, some) -> some.mayHaveOneOf(sorted)
                    ? Meetings.of(some.inOrder().stream().filter(m -> !items.contains(m.item())))
                    : some);
        }
        met.stream()
                .collect(Collectors.groupingBy(MetAccount::account))
                .forEach((account, more) -> all.merge(
                        account,
                        Meetings.of(more.stream()),
                        (some, others) ->
                                Meetings.of(Stream.concat(some.inOrder().stream(), others.inOrder().stream()))));
        all.values().removeIf(m -> m.inOrder().isEmpty());
        return all;
    }

    private static UUID account(Deal deal) {
        return deal.now().account();
    }

    /** As far as a viewer may know of it. */
    public Seen seenBy(Viewer viewer, Instant now) {
        return new Seen(viewer, viewer.ids(), now);
    }

    /** What one viewer may know at one moment. */
    public final class Seen {
        private final Viewer viewer;
        private final Set<UUID> ids;
        private final boolean readsWhatEverybodyDoes;
        private final Instant now;

        private Seen(Viewer viewer, Set<UUID> ids, Instant now) {
            this.viewer = viewer;
            this.ids = ids;
            this.now = now;
            readsWhatEverybodyDoes = Visibility.of(viewer, Readers.EVERYONE) == Visibility.FULL;
        }

        /** Those that were met, or are to be. */
        Collection<UUID> accounts() {
            return meetings.keySet();
        }

        /** Of several copies of one, the one that the viewer gets. */
        public List<MetAccount> with(UUID account) {
            Meetings all = meetings.get(account);
            if (all == null) {
                return List.of();
            }
            return all.haveFaces() ? all.inOrder().stream().filter(this::gets).toList() : all.inOrder();
        }

        private boolean gets(MetAccount met) {
            return met.face() == null || met.face().isFor(ids, met.readers());
        }

        /** Null where the viewer may not know it. */
        public @Nullable Standing standing(MetAccount met) {
            return isRead(met) ? met.standing(now) : null;
        }

        private boolean isRead(MetAccount met) {
            return met.readers().everyone()
                    ? readsWhatEverybodyDoes
                    : Visibility.of(viewer, met.readers()) == Visibility.FULL;
        }

        boolean isHeld(MetAccount met) {
            return standing(met) == Standing.HELD;
        }

        /** Empty where the viewer may not know it, too. */
        String result(MetAccount met) {
            return isRead(met) ? met.result() : "";
        }

        /** Everybody may know of them. */
        public Collection<Deal> deals() {
            return deals.values();
        }

        /** The first opened first. */
        List<Deal> dealsOf(UUID account) {
            return dealsByAccount.getOrDefault(account, List.of());
        }
    }
}
