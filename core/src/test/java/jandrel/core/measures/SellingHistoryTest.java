package jandrel.core.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.Deal.Change;
import jandrel.core.measures.Deal.Means;
import jandrel.core.measures.Deal.Worth;
import jandrel.core.visibility.FaceChoice;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class SellingHistoryTest {
    private static final Instant NOW = Instant.parse("2026-06-30T12:00:00Z");
    private static final UUID MAREN = new UUID(2, 1);
    private static final UUID TOBIAS = new UUID(2, 2);

    private static MetAccount met(int item, int account, Instant begins, Readers readers, @Nullable FaceChoice face) {
        UUID id = new UUID(9, item);
        return new MetAccount(
                id,
                id,
                new UUID(1, account),
                Set.of(),
                begins,
                begins,
                new MetAccount.Signs(false, false, false, ""),
                readers,
                face,
                MAREN,
                "");
    }

    private static Deal deal(int id, int account, Instant opened) {
        Worth worth = new Worth(null, "", "once");
        return new Deal(
                new UUID(8, id),
                List.of(new Change(opened, "talk", Means.OPEN, worth, null, new UUID(1, account), "")));
    }

    /** What is there after changes came one by one is what would be there, had all come at once. */
    @Test
    void changesOneByOneAreTheSameAsAllAtOnce() {
        for (int seed = 0; seed < 300; seed++) {
            Random random = new Random(seed);
            Map<Integer, List<MetAccount>> items = new HashMap<>();
            Map<Integer, Deal> deals = new HashMap<>();
            SellingHistory history = SellingHistory.NONE;
            for (int step = 0; step < 30; step++) {
                IntFunction<Instant> some = n -> NOW.minusSeconds(random.nextInt(n));
                Set<UUID> changed = Set.of();
                Set<UUID> changedDeals = Set.of();
                List<MetAccount> met = List.of();
                List<Deal> dealt = List.of();
                if (random.nextBoolean()) {
                    int item = random.nextInt(12);
                    met = IntStream.range(0, random.nextInt(3))
                            .mapToObj(i -> met(item, i + random.nextInt(3), some.apply(50), Readers.EVERYONE, null))
                            .toList();
                    items.put(item, met);
                    changed = Set.of(new UUID(9, item));
                } else {
                    int id = random.nextInt(6);
                    deals.remove(id);
                    dealt = random.nextInt(3) == 0 ? List.of() : List.of(deal(id, random.nextInt(5), some.apply(50)));
                    dealt.forEach(d -> deals.put(id, d));
                    changedDeals = Set.of(new UUID(8, id));
                }
                history = history.with(changed, met, changedDeals, dealt);
            }
            List<MetAccount> all = items.values().stream().flatMap(List::stream).toList();
            SellingHistory atOnce = SellingHistory.NONE.with(Set.of(), all, Set.of(), List.copyOf(deals.values()));
            assertThat(told(history)).as("seed %d", seed).isEqualTo(told(atOnce));
            assertThat(told(history)).hasSize(all.size() + 2 * deals.size());
        }
    }

    private static List<Object> told(SellingHistory history) {
        SellingHistory.Seen seen = history.seenBy(new Viewer(Role.MANAGER, MAREN), NOW);
        assertThat(seen.accounts()).allSatisfy(a -> assertThat(seen.with(a)).isNotEmpty());
        List<Object> told = new ArrayList<>(
                seen.deals().stream().sorted(Comparator.comparing(Deal::id)).toList());
        for (int account = 0; account < 6; account++) {
            assertThat(seen.with(new UUID(1, account))).isSortedAccordingTo(MetAccount.IN_ORDER);
            told.addAll(seen.with(new UUID(1, account)));
            told.addAll(seen.dealsOf(new UUID(1, account)));
        }
        return told;
    }

    /** Of a meeting that two of ours have in different words, everybody gets one: their own, else the first that they read. */
    @Test
    void ofCopiesThatDifferEverybodyGetsOne() {
        Set<UUID> maren = Set.of(MAREN);
        Set<UUID> tobias = Set.of(TOBIAS);
        MetAccount first = met(
                1, 1, NOW.minusSeconds(60), Readers.only(maren), new FaceChoice(0, maren, tobias, Readers.EVERYONE));
        MetAccount second = met(
                1, 1, NOW.minusSeconds(30), Readers.EVERYONE, new FaceChoice(1, tobias, maren, Readers.only(maren)));
        SellingHistory history = SellingHistory.NONE.with(Set.of(), List.of(first, second), Set.of(), List.of());
        assertThat(gets(history, MAREN)).containsExactly(first);
        assertThat(gets(history, TOBIAS)).containsExactly(second);
        assertThat(gets(history, new UUID(2, 3))).containsExactly(second);
        assertThat(gets(history, null)).containsExactly(second);
        MetAccount closed = met(
                1,
                1,
                NOW.minusSeconds(30),
                Readers.only(tobias),
                new FaceChoice(1, tobias, maren, Readers.only(maren)));
        MetAccount alone = met(
                1,
                1,
                NOW.minusSeconds(60),
                Readers.only(maren),
                new FaceChoice(0, maren, tobias, Readers.only(tobias)));
        SellingHistory both = SellingHistory.NONE.with(Set.of(), List.of(alone, closed), Set.of(), List.of());
        // who reads neither is told of the first, and not how it went
        assertThat(gets(both, new UUID(2, 3))).containsExactly(alone);
        assertThat(both.seenBy(new Viewer(Role.MANAGER, new UUID(2, 3)), NOW).standing(alone))
                .isNull();
    }

    private static List<MetAccount> gets(SellingHistory history, @Nullable UUID person) {
        return history.seenBy(new Viewer(Role.MANAGER, person), NOW).with(new UUID(1, 1));
    }
}
