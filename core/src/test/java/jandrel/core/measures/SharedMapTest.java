package jandrel.core.measures;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.UUID;
import org.junit.jupiter.api.Test;

/** Against a plain map; and that no map ever changes when another is made from it. */
class SharedMapTest {
    @Test
    void eachIsWhatAPlainMapWouldBeAndStaysSo() {
        for (int seed = 0; seed < 50; seed++) {
            Random random = new Random(seed);
            // ids that count up, and such as are alike but for one half
            boolean counted = random.nextBoolean();
            List<Map<UUID, Integer>> plain = new ArrayList<>(List.of(Map.of()));
            List<SharedMap<Integer>> shared = new ArrayList<>(List.of(SharedMap.empty()));
            for (int step = 0; step < 20; step++) {
                int from = random.nextInt(plain.size());
                Map<UUID, Integer> expected = new HashMap<>(plain.get(from));
                SharedMap<Integer>.Editing editing = shared.get(from).edit();
                for (int change = random.nextInt(30); change > 0; change--) {
                    long n = random.nextInt(60);
                    UUID id = counted ? new UUID(0, n) : new UUID(n << 32, 7);
                    assertThat(editing.get(id)).isEqualTo(expected.get(id));
                    if (random.nextInt(3) == 0) {
                        assertThat(editing.remove(id)).isEqualTo(expected.remove(id));
                    } else {
                        editing.put(id, change);
                        expected.put(id, change);
                    }
                }
                plain.add(expected);
                shared.add(editing.done());
            }
            for (int i = 0; i < plain.size(); i++) {
                Map<UUID, Integer> found = new HashMap<>();
                shared.get(i).forEach(found::put);
                assertThat(found).as("seed " + seed).isEqualTo(plain.get(i));
                assertThat(shared.get(i).ids())
                        .containsExactlyInAnyOrderElementsOf(plain.get(i).keySet());
                assertThat(shared.get(i).values())
                        .containsExactlyInAnyOrderElementsOf(plain.get(i).values());
            }
        }
    }
}
