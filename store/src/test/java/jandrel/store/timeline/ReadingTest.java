package jandrel.store.timeline;

import static jandrel.store.capture.Scene.mail;
import static jandrel.store.capture.Scene.seen;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.decide.Verdict;
import jandrel.core.directory.Exclusion;
import jandrel.core.item.UnreadableItem;
import jandrel.core.visibility.Oversight;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Scene;
import jandrel.store.kernel.PageCursor;
import jandrel.store.policy.Exclusions;
import jandrel.store.timeline.Decisions.Shown;
import jandrel.store.timeline.Timelines.Entry;
import jandrel.store.timeline.Timelines.Order;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** What lists, filters, counts and pages give. */
class ReadingTest {
    private static final Instant EARLY = Instant.parse("1900-01-01T00:00:00Z");
    private static final Instant LATE = Instant.parse("9999-01-01T00:00:00Z");
    private static final Viewer ADMINISTRATOR = new Viewer(Role.ADMINISTRATOR, null);
    private static StoreContext store;
    private static Scene scene;
    private static UUID exclusion;

    @BeforeAll
    static void fill() throws Exception {
        store = new StoreContext("test_reading");
        scene = Scene.anew(store)
                .people(2)
                .account("port", "port.example")
                .account("100%_sure", "sure.example")
                .contact("bram", "port", "bram@port.example");
        exclusion = UUID.randomUUID();
        store.get(Exclusions.class).add(List.of(Exclusion.of(exclusion, "@supplier.example", "no")), "t");
        Intake intake = store.get(Intake.class);
        List<FetchedItem> logged = new ArrayList<>();
        for (int i = 0; i < 25; i++) {
            logged.add(seen("1/" + i, mail("l" + i, "bram@port.example", "p0@corvane.example")));
        }
        intake.take(scene.place(0), logged, List.of(), null);
        intake.take(
                scene.place(1),
                List.of(
                        seen("1/1", mail("w", "stranger@else.example", "p1@corvane.example")),
                        seen("1/2", mail("x", "a@supplier.example", "p1@corvane.example")),
                        seen("1/3", mail("i", "p0@corvane.example", "p1@corvane.example")),
                        new FetchedItem(
                                "1/4", new UnreadableItem("unreadable:4", Scene.NOON, "no header"), () -> null)),
                List.of(),
                null);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    private static DecisionFilter filter(
            String verdict, String rule, @Nullable UUID person, @Nullable UUID excluded, String address) {
        return new DecisionFilter(verdict, "", rule, person, null, excluded, null, EARLY, LATE, address);
    }

    private static List<Shown> all(DecisionFilter filter, Viewer viewer) {
        Decisions.Page page = store.get(Decisions.class).counted(filter, viewer, PageCursor.TOP, 200);
        assertThat(page.total())
                .as("the count is of what is listed")
                .isEqualTo(page.shown().size());
        assertThat(page.orMore()).isFalse();
        return page.shown();
    }

    /** By whatever name: the database knows some of them by another sign, and some not at all. */
    @Test
    void daysAreThoseOfTheMomentsTheyBeginAt() {
        DailyCounts counts = store.get(DailyCounts.class);
        for (String zone : List.of("UTC", "Pacific/Kiritimati", "GMT+14", "+13:59:59", "Europe/Oslo")) {
            ZoneId at = ZoneId.of(zone);
            LocalDate day = LocalDate.ofInstant(Scene.NOON, at);
            List<Instant> starts = day.minusDays(1)
                    .datesUntil(day.plusDays(3))
                    .map(d -> d.atStartOfDay(at).toInstant())
                    .toList();
            assertThat(counts.of(starts, null))
                    .as(zone)
                    .filteredOn(d -> d.day() == 1)
                    .singleElement()
                    .matches(d -> d.logged() > 0 && d.waiting() > 0 && d.leftOut() > 0);
        }
    }

    @Test
    void everyItemSeenHasItsDecisionAndFiltersNarrow() {
        assertThat(all(filter("", "", null, null, ""), ADMINISTRATOR)).hasSize(29);
        assertThat(all(filter("logged", "", null, null, ""), ADMINISTRATOR)).hasSize(25);
        assertThat(all(filter("left-out", "INSIDE_ONLY", null, null, ""), ADMINISTRATOR))
                .hasSize(1);
        assertThat(all(filter("", "", scene.person(1), null, ""), ADMINISTRATOR))
                .hasSize(4);
        assertThat(all(filter("", "", null, exclusion, ""), ADMINISTRATOR))
                .singleElement()
                .satisfies(d -> assertThat(d.sentences().get(0))
                        .contains("supplier.example")
                        .contains("(no)"));
        assertThat(all(filter("", "", null, null, "@port.example"), ADMINISTRATOR))
                .hasSize(25);
        assertThat(all(filter("", "", null, null, "stranger@else.example"), ADMINISTRATOR))
                .hasSize(1);
        assertThat(all(filter("", "", null, null, "a@supplier.example"), ADMINISTRATOR))
                .as("nothing of what is left out is kept")
                .isEmpty();
    }

    @Test
    void theTimeOfAnItemNarrowsToo() {
        DecisionFilter before = new DecisionFilter("", "", "", null, null, null, null, EARLY, Scene.NOON, "");
        DecisionFilter after = new DecisionFilter("", "", "", null, null, null, null, Scene.NOON, LATE, "");
        assertThat(all(before, ADMINISTRATOR)).isEmpty();
        assertThat(all(after, ADMINISTRATOR)).hasSize(29);
    }

    @Test
    void aRepGetsTheirOwnAndASignInThatIsNobodysGetsNone() {
        assertThat(all(filter("", "", null, null, ""), new Viewer(Role.REP, scene.person(1))))
                .hasSize(4)
                .allMatch(d -> d.person().equals(scene.person(1)));
        assertThat(all(filter("", "", null, null, ""), new Viewer(Role.REP, null)))
                .isEmpty();
        Shown foreign =
                all(filter("waiting", "", null, null, ""), ADMINISTRATOR).get(0);
        assertThat(store.get(Decisions.class).one(foreign.id(), new Viewer(Role.REP, scene.person(0))))
                .isEmpty();
    }

    @Test
    void anAuditorGetsEveryReasonThatNamesNobody() {
        Viewer auditor = new Viewer(Role.AUDITOR, null);
        List<Shown> seen = all(filter("", "", null, null, ""), auditor);
        assertThat(seen)
                .hasSize(29)
                .allMatch(d -> d.item() == null)
                .noneMatch(d -> d.sentences().toString().contains("bram"));
        assertThat(seen)
                .filteredOn(d -> d.verdict() == Verdict.LEFT_OUT)
                .allMatch(d -> !d.trail().isEmpty());
        assertThat(seen)
                .filteredOn(d -> d.verdict() == Verdict.LOGGED)
                .allMatch(d -> d.trail().isEmpty());
    }

    @Test
    void pagesOfEqualTimesNeitherRepeatNorSkip() {
        Timelines timelines = store.get(Timelines.class);
        UUID account = timelines
                .records(RecordFilter.named("account", "port"), Order.NAME, Scene.NOON, 0, 5)
                .get(0)
                .id();
        List<UUID> walked = new ArrayList<>();
        PageCursor cursor = PageCursor.TOP;
        for (List<Entry> page = timelines.page(account, ADMINISTRATOR, cursor, 7);
                !page.isEmpty();
                page = timelines.page(account, ADMINISTRATOR, cursor, 7)) {
            page.forEach(e -> walked.add(e.id()));
            Entry last = page.get(page.size() - 1);
            cursor = new PageCursor(last.at(), last.id());
        }
        assertThat(walked).hasSize(25);
        assertThat(new HashSet<>(walked)).hasSize(25);
    }

    @Test
    void recordsAreFoundByAPartOfTheirNameWithNothingReadAsAPattern() {
        Timelines timelines = store.get(Timelines.class);
        assertThat(timelines.records(RecordFilter.named("", "ACCOUNT PORT"), Order.NAME, Scene.NOON, 0, 5))
                .extracting(KnownRecord::name)
                .containsExactly("Account port");
        assertThat(timelines.records(RecordFilter.named("", "100%_"), Order.NAME, Scene.NOON, 0, 5))
                .extracting(KnownRecord::name)
                .containsExactly("Account 100%_sure");
        assertThat(timelines.records(RecordFilter.named("", "%"), Order.NAME, Scene.NOON, 0, 5))
                .hasSize(1);
        assertThat(timelines.records(RecordFilter.named("contact", "account"), Order.NAME, Scene.NOON, 0, 5))
                .isEmpty();
        assertThat(timelines.recordCount(RecordFilter.named("", ""), Scene.NOON))
                .isEqualTo(3);
    }

    @Test
    void aRecordKnowsItsLastTouchAndHowMuchThereIs() {
        KnownRecord port = store.get(Timelines.class)
                .records(RecordFilter.named("account", "port"), Timelines.Order.NAME, Scene.NOON.plusSeconds(1), 0, 5)
                .get(0);
        assertThat(port.activities()).isEqualTo(25);
        assertThat(port.lastTouch()).isEqualTo(Scene.NOON);
        assertThat(port.nextMeeting()).isNull();
        assertThat(port.addresses()).containsExactly("port.example");
    }

    @Test
    void searchFindsWordsOfSubjectsAndPeopleAndPagesThem() {
        assertThat(Finding.found(store, "about l7", ADMINISTRATOR).total()).isEqualTo(1);
        assertThat(Finding.found(store, "bram@port.example", ADMINISTRATOR).total())
                .isEqualTo(25);
        Search.Page first = Finding.found(store, "from:bram", ADMINISTRATOR, PageCursor.TOP, 10);
        assertThat(first.hits()).hasSize(10);
        Timelines.Entry last = first.hits().get(9).entry();
        assertThat(Finding.found(store, "from:bram", ADMINISTRATOR, new PageCursor(last.sorted(), last.id()), 100)
                        .hits())
                .hasSize(15)
                .noneMatch(h -> h.entry().id().equals(last.id()));
        assertThat(Finding.found(store, "'; DROP TABLE activity; --", ADMINISTRATOR)
                        .total())
                .isZero();
    }

    @Test
    void sumsAddUpToWhatIsListed() throws SQLException {
        Tallies tallies = store.get(Tallies.class);
        assertThat(tallies.summary(ADMINISTRATOR).sums().stream()
                        .mapToLong(Tallies.Sum::count)
                        .sum())
                .isEqualTo(29);
        assertThat(tallies.summary(new Viewer(Role.REP, scene.person(1))).sums().stream()
                        .mapToLong(Tallies.Sum::count)
                        .sum())
                .isEqualTo(4);
        assertThat(tallies.summary(ADMINISTRATOR).activities())
                .isEqualTo(store.count("SELECT count(*) FROM activity WHERE face = 0"));
        tallies.merge();
        assertThat(tallies.summary(ADMINISTRATOR).sums().stream()
                        .mapToLong(Tallies.Sum::count)
                        .sum())
                .isEqualTo(29);
    }

    @Test
    void whatWasDecidedUnderAPolicyIsWhatItsListHolds() {
        PolicyTallies.PolicyTally everyone =
                store.get(PolicyTallies.class).all(Oversight.EVERYBODY).get(0);
        assertThat(everyone.name()).isEqualTo("Everyone");
        assertThat(everyone.people()).isEqualTo(2);
        assertThat(everyone.logged() + everyone.waiting() + everyone.leftOut() + everyone.unreadable())
                .isEqualTo(29);
        DecisionFilter logged = new DecisionFilter(
                "logged", "", "", null, everyone.policy(), null, null, DecisionFilter.FIRST, DecisionFilter.LAST, "");
        assertThat(all(logged, ADMINISTRATOR)).hasSize((int) everyone.logged());
        assertThat(store.get(Decisions.class)
                        .counted(logged, ADMINISTRATOR, PageCursor.TOP, 5)
                        .total())
                .isEqualTo(everyone.logged());
        DecisionFilter none = new DecisionFilter(
                "", "", "", null, UUID.randomUUID(), null, null, DecisionFilter.FIRST, DecisionFilter.LAST, "");
        assertThat(all(none, ADMINISTRATOR)).isEmpty();
        Oversight second = Oversight.of(Role.MANAGER, null, List.of(scene.person(1)));
        PolicyTallies.PolicyTally theirs =
                store.get(PolicyTallies.class).all(second).get(0);
        assertThat(theirs.people()).isEqualTo(1);
        assertThat(theirs.logged() + theirs.waiting() + theirs.leftOut() + theirs.unreadable())
                .isEqualTo(4);
    }

    @Test
    void whatIsNotTalliedIsCountedAsFarAsItIsFew() {
        DecisionFilter since = new DecisionFilter("", "", "", null, null, null, null, EARLY.plusSeconds(1), LATE, "");
        assertThat(all(since, ADMINISTRATOR)).hasSize(29);
        DecisionFilter until = new DecisionFilter(
                "", "", "", null, null, null, null, DecisionFilter.FIRST, Scene.NOON.plusSeconds(1), "");
        assertThat(all(until, ADMINISTRATOR)).isNotEmpty();
    }
}
