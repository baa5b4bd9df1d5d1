package jandrel.store.measures;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.measures.ContactFigures;
import jandrel.core.measures.Contacts;
import jandrel.core.measures.Measure.By;
import jandrel.core.measures.Only;
import jandrel.core.measures.Sheet;
import jandrel.core.measures.Span;
import jandrel.core.measures.TeamHistory;
import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.transaction.PlatformTransactionManager;

/** Whatever comes and goes: how much mail and how many meetings there were is what is known to somebody who reads all of it anew. */
class ContactKeeperTest {
    private static final Instant NOON = Instant.parse("2026-06-30T12:00:00Z");
    private static final int HISTORIES = 15;
    private static final int STEPS = 25;
    private static final List<String> ZONES = List.of("UTC", "Pacific/Auckland", "America/St_Johns");

    @Test
    void eachNodeKnowsWhatTheDatabaseSays() throws Exception {
        try (StoreContext one = new StoreContext("test_contact_keeper");
                StoreContext other = StoreContext.beside("test_contact_keeper")) {
            JdbcTemplate jdbc = one.get(JdbcTemplate.class);
            RandomTouches.accounts(jdbc);
            boolean missedWasSeen = false;
            for (long seed = 1; seed <= HISTORIES; seed++) {
                Random random = new Random(seed);
                Instant now = NOON.plus(seed * 9, ChronoUnit.HOURS);
                for (int step = 0; step < STEPS; step++) {
                    now = now.plus(random.nextInt(20), ChronoUnit.MINUTES);
                    if (random.nextInt(3) == 0) {
                        say(jdbc, random);
                    } else {
                        RandomTouches.change(jdbc, random, now);
                    }
                    if (random.nextInt(3) == 0) {
                        missedWasSeen |= assertKnown(random.nextBoolean() ? one : other, random, now, seed);
                    }
                }
                missedWasSeen |= assertKnown(one, random, now, seed) | assertKnown(other, random, now, seed);
            }
            assertThat(missedWasSeen).isTrue();
        }
    }

    /** Somebody says how a meeting went, or takes it back. */
    private static void say(JdbcTemplate jdbc, Random random) {
        jdbc.update("DELETE FROM meeting_outcome WHERE state = ?", random.nextBoolean() ? "held" : "missed");
        jdbc.update(
                "INSERT INTO meeting_outcome (item, owners, state, by_name) SELECT item, '{}', ?, 'x' FROM activity"
                        + " WHERE kind = 'meeting' AND face = 0 ORDER BY id OFFSET ? LIMIT 1 ON CONFLICT DO NOTHING",
                random.nextBoolean() ? "held" : "missed",
                random.nextInt(3));
    }

    private static boolean assertKnown(StoreContext node, Random random, Instant now, long seed) {
        Viewer viewer = random.nextInt(3) == 0
                ? new Viewer(Role.ADMINISTRATOR, null)
                : new Viewer(Role.REP, RandomTouches.PEOPLE.get(random.nextInt(3)), null, Oversight.EVERYBODY);
        LocalDate from = LocalDate.parse("2026-06-30").plusDays(random.nextInt(-20, 5));
        Span span = new Span(
                from, from.plusDays(random.nextInt(1, 20)), ZoneId.of(ZONES.get(random.nextInt(ZONES.size()))));
        By by = List.of(By.WEEK, By.OWNER, By.ACCOUNT).get(random.nextInt(3));
        String known = plain(figures(
                node.get(MeasureRows.class)
                        .exchanges(viewer, span.begin(), span.end(), now)
                        .all(),
                span,
                by));
        ContactKeeper anew = new ContactKeeper(
                node.get(ContactKeeper.Mapped.class),
                node.get(ChangeMapper.class),
                node.get(PlatformTransactionManager.class));
        Sheet said = anew.current(span.begin(), span.end(), days -> figures(new Contacts(days, viewer, now), span, by));
        assertThat(known)
                .as("seed %d at %s for %s, %s", seed, now, viewer, span)
                .isEqualTo(plain(said));
        return said.total().cells().get(3).rows().size() > 0;
    }

    private static Sheet figures(Contacts all, Span span, By by) {
        return ContactFigures.of(all, span, by, Only.ALL, new TeamHistory(List.of()), owner -> true);
    }

    /** With what stands behind each figure, in whatever order it was read. */
    private static String plain(Sheet sheet) {
        return new TreeMap<>(
                        sheet.lines().stream().collect(Collectors.toMap(Sheet.Line::key, ContactKeeperTest::plain)))
                + plain(sheet.total()) + " hidden " + sheet.hidden();
    }

    private static String plain(Sheet.Line line) {
        return line.basis()
                + line.cells().stream()
                        .map(c -> c.rows().stream()
                                .map(Sheet.Behind::toString)
                                .sorted()
                                .toList())
                        .toList()
                        .toString();
    }
}
