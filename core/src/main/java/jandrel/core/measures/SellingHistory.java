package jandrel.core.measures;

import jandrel.core.timeline.Standing;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.function.BiConsumer;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** All meetings with accounts, and all opportunities through time, so that what changed takes the place of what was. Never changed itself. */
public final class SellingHistory {
    public static final SellingHistory NONE =
            new SellingHistory(SharedMap.empty(), SharedMap.empty(), SharedMap.empty());
    private final SharedMap<Meetings> meetings;
    private final SharedMap<Deal> deals;
    private final SharedMap<List<Deal>> dealsByAccount;

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

    private SellingHistory(SharedMap<Meetings> meetings, SharedMap<Deal> deals, SharedMap<List<Deal>> dealsByAccount) {
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
        SharedMap<Meetings> metNow = items.isEmpty() && met.isEmpty() ? meetings : meetings(items, met);
        if (opportunities.isEmpty() && now.isEmpty()) {
            return new SellingHistory(metNow, deals, dealsByAccount);
        }
        SharedMap<Deal>.Editing all = deals.edit();
        SharedMap<List<Deal>>.Editing byAccount = dealsByAccount.edit();
        opportunities.forEach(id -> {
            Deal was = all.remove(id);
            List<Deal> some = was == null ? null : byAccount.get(account(was));
            if (was != null && some != null) {
                byAccount.put(
                        account(was),
                        some.stream().filter(d -> !d.id().equals(id)).toList());
            }
        });
        now.forEach(d -> all.put(d.id(), d));
        now.stream().collect(Collectors.groupingBy(SellingHistory::account)).forEach((account, more) -> {
            List<Deal> some = byAccount.get(account);
            byAccount.put(account, inOrder(some == null ? more.stream() : Stream.concat(some.stream(), more.stream())));
        });
        return new SellingHistory(metNow, all.done(), byAccount.done());
    }

    private static List<Deal> inOrder(Stream<Deal> some) {
        return some.sorted(Comparator.comparing(Deal::opened).thenComparing(Deal::id))
                .toList();
    }

    private SharedMap<Meetings> meetings(Set<UUID> items, List<MetAccount> met) {
        SharedMap<Meetings>.Editing all = meetings.edit();
        if (!items.isEmpty()) {
            long[] sorted = items.stream()
                    .mapToLong(UUID::getMostSignificantBits)
                    .sorted()
                    .toArray();
            meetings.forEach((account, some) -> {
                if (some.mayHaveOneOf(sorted)) {
                    put(all, account, some.inOrder().stream().filter(m -> !items.contains(m.item())));
                }
            });
        }
        met.stream().collect(Collectors.groupingBy(MetAccount::account)).forEach((account, more) -> {
            Meetings some = all.get(account);
            put(all, account, some == null ? more.stream() : Stream.concat(some.inOrder().stream(), more.stream()));
        });
        return all.done();
    }

    private static void put(SharedMap<Meetings>.Editing all, UUID account, Stream<MetAccount> some) {
        Meetings meetings = Meetings.of(some);
        if (meetings.inOrder().isEmpty()) {
            all.remove(account);
        } else {
            all.put(account, meetings);
        }
    }

    private static UUID account(Deal deal) {
        return deal.now().account();
    }

    /** As far as a viewer may know of it. */
    public Seen seenBy(Viewer viewer, Instant now) {
        return new Seen(viewer, now);
    }

    /** What one viewer may know at one moment. */
    public final class Seen {
        private final Predicate<Readers> reads;
        private final Set<UUID> ids;
        private final Instant now;

        private Seen(Viewer viewer, Instant now) {
            reads = Visibility.full(viewer);
            ids = viewer.ids();
            this.now = now;
        }

        /** Those that were met, or are to be. */
        Collection<UUID> accounts() {
            return meetings.ids();
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
            return reads.test(met.readers());
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

        /** Each with all meetings of its account. */
        void eachDeal(BiConsumer<Deal, List<MetAccount>> each) {
            dealsByAccount.forEach((account, some) -> {
                List<MetAccount> met = with(account);
                some.forEach(deal -> each.accept(deal, met));
            });
        }

        /** The first opened first. */
        List<Deal> dealsOf(UUID account) {
            List<Deal> some = dealsByAccount.get(account);
            return some == null ? List.of() : some;
        }
    }
}
