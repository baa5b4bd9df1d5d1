package jandrel.store.policy;

import static jandrel.store.capture.Scene.mail;
import static jandrel.store.capture.Scene.seen;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.decide.Rule;
import jandrel.core.directory.Exclusion;
import jandrel.core.item.MailItem;
import jandrel.core.policy.Audience;
import jandrel.core.policy.Creation;
import jandrel.core.policy.Handling;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.timeline.Ruling;
import jandrel.core.visibility.Role;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.StoreContext;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Positions;
import jandrel.store.capture.Scene;
import jandrel.store.capture.SourceRef;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.PageCursor;
import jandrel.store.people.CoverPeriod;
import jandrel.store.rehearsal.Rehearsals;
import jandrel.store.timeline.DecisionFilter;
import jandrel.store.timeline.Decisions;
import jandrel.store.timeline.Finding;
import jandrel.store.timeline.RecordFilter;
import jandrel.store.timeline.Rulings;
import jandrel.store.timeline.Tallies;
import jandrel.store.timeline.Timelines;
import jandrel.store.triage.ExclusionSuggestions;
import jandrel.store.triage.Strangers;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Who is covered by what, who reads what, and what the journal keeps of it. */
class RollingOutTest {
    private static final Viewer EVERYONE = new Viewer(Role.ADMINISTRATOR, null);
    private static final Viewer ADMINISTRATOR = new Viewer(Role.ADMINISTRATOR, null);
    private static StoreContext store;
    private Scene scene;
    private Policies policies;
    private Roster roster;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_rolling_out");
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void begin() throws Exception {
        scene = Scene.anew(store).people(2).account("port", "port.example");
        policies = store.get(Policies.class);
        roster = store.get(Roster.class);
    }

    private SourceRef capture(int person, String id) {
        SourceRef place = scene.place(person);
        store.get(Intake.class)
                .take(
                        place,
                        List.of(seen("1/" + id, mail(id, "bram@port.example", "p" + person + "@corvane.example"))),
                        List.of(),
                        null);
        return place;
    }

    private List<Timelines.Entry> timeline(Viewer viewer) {
        Timelines timelines = store.get(Timelines.class);
        UUID port = timelines
                .records(RecordFilter.named("account", "Account port"), Timelines.Order.NAME, Instant.now(), 0, 1)
                .get(0)
                .id();
        return timelines.page(port, viewer, PageCursor.TOP, 50);
    }

    private Roster.Listed listed(int person) {
        return roster.one(scene.person(person)).orElseThrow();
    }

    private Policy add(String name, Audience audience) {
        return policies.add(Policy.first().named(UUID.randomUUID(), 1, name).with(audience), "ina");
    }

    @Test
    void theFirstPolicyInOrderThatHasThePersonCoversThem() {
        assertThat(listed(0).why()).isEqualTo("everyone");
        Policy east = add("East", Audience.ofTeams("East"));
        assertThat(listed(0).policyName()).isEqualTo("East");
        assertThat(listed(0).why()).isEqualTo("team East");
        policies.order(List.of(Policy.FIRST, east.id()), "ina");
        assertThat(listed(0).policyName()).isEqualTo("Everyone");
        policies.archive(Policy.FIRST, true, "ina");
        assertThat(listed(0).policyName()).isEqualTo("East");
        policies.archive(east.id(), true, "ina");
        assertThat(listed(0).covered()).isFalse();
        policies.archive(Policy.FIRST, false, "ina");
    }

    @Test
    void whatWasCapturedStaysWhenAPolicyIsSwitchedOffOrArchived() {
        capture(0, "1");
        policies.enable(Policy.FIRST, false, "ina");
        scene.settle();
        assertThat(timeline(ADMINISTRATOR)).hasSize(1);
        policies.archive(Policy.FIRST, true, "ina");
        scene.settle();
        assertThat(timeline(ADMINISTRATOR)).hasSize(1);
        policies.archive(Policy.FIRST, false, "ina");
        policies.enable(Policy.FIRST, true, "ina");
    }

    @Test
    void anEarlierVersionComesBackInOneStepAndEveryStepIsKept() {
        Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
        Policy shy = policies.change(now.with(Sharing.OWNER), "ina");
        assertThat(shy.version()).isEqualTo(now.version() + 1);
        Policy back = policies.back(Policy.FIRST, now.version(), "ina");
        assertThat(back.sharing()).isEqualTo(now.sharing());
        assertThat(back.version()).isEqualTo(now.version() + 2);
        assertThat(policies.versions(Policy.FIRST))
                .extracting(k -> k.policy().version())
                .startsWith(back.version(), shy.version(), now.version());
    }

    @Test
    void whatSomebodyKeepsOutOfTheirOwnIsNobodyElsesToRead() throws SQLException {
        store.run("TRUNCATE journal");
        capture(0, "1");
        Exclusion own = new Exclusion(
                UUID.randomUUID(),
                Exclusion.Kind.ADDRESS,
                "bram@port.example",
                "my brother",
                new Exclusion.Limits(null, scene.person(0), null));
        assertThat(store.get(Exclusions.class).add(List.of(own), "p0")).hasSize(1);
        scene.settle();
        assertThat(timeline(ADMINISTRATOR)).isEmpty();
        assertThat(store.get(Exclusions.class).remove(List.of(own.id()), "p0")).containsExactly(own);
        assertThat(store.count("SELECT count(*) FROM journal WHERE kind = 'exclusion' AND thing = '" + own.id() + "'"))
                .isEqualTo(2);
        assertThat(store.count("SELECT count(*) FROM journal j WHERE j::text ~ 'bram@port|brother'"))
                .isZero();
        assertThat(store.count("SELECT count(*) FROM sighting WHERE trail ~ 'bram@port|brother'"))
                .isZero();
    }

    @Test
    void whatIsKeptAlthoughItIsGoneIsMarked() {
        Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
        Handling h = now.handling();
        policies.change(now.with(h.withDeleted(Handling.Vanished.MARK, Handling.Vanished.MARK)), "ina");
        SourceRef place = capture(0, "1");
        assertThat(timeline(ADMINISTRATOR)).extracting(Timelines.Entry::mark).containsExactly("");
        store.get(Intake.class).take(place, List.of(), List.of("1/1"), null);
        scene.settle();
        assertThat(timeline(ADMINISTRATOR)).extracting(Timelines.Entry::mark).containsExactly("deleted");
        policies.change(policies.find(Policy.FIRST).orElseThrow().policy().with(Sharing.OWNER), "ina");
        scene.settle();
        assertThat(timeline(new Viewer(Role.REP, scene.person(1))))
                .as("an outline says when and whose, and nothing else")
                .extracting(Timelines.Entry::visibility, Timelines.Entry::mark)
                .containsExactly(org.assertj.core.groups.Tuple.tuple(Visibility.OUTLINE, ""));
        Policy marks = policies.find(Policy.FIRST).orElseThrow().policy();
        policies.change(marks.with(h).with(now.sharing()), "ina");
    }

    @Test
    void whatWasCapturedBeforeDetailsWereKnownIsFoundByThem() throws Exception {
        SourceRef place = scene.place(0);
        store.get(Intake.class)
                .take(
                        place,
                        List.of(seen("1/1", mail("1", "bram+x@port.example", "p0@corvane.example"))),
                        List.of(),
                        null);
        store.run("UPDATE sighting SET keys = array_remove(keys, 'bram@port.example')");
        store.run(new String(
                RollingOutTest.class
                        .getResourceAsStream("/db/migration/V3__details.sql")
                        .readAllBytes(),
                StandardCharsets.UTF_8));
        assertThat(store.count("SELECT count(*) FROM reconsider")).isEqualTo(1);
        assertThat(store.count("SELECT count(*) FROM sighting WHERE 'bram@port.example' = ANY(keys)"))
                .isEqualTo(1);
        assertThat(store.get(Exclusions.class)
                        .add(List.of(Exclusion.of(UUID.randomUUID(), "bram@port.example", "")), "ina"))
                .hasSize(1);
        scene.settle();
        assertThat(timeline(ADMINISTRATOR)).isEmpty();
    }

    @Test
    void rehearsalsThatCameToNothingAreForgottenAndAppliedOnesAreNot() throws SQLException {
        Rehearsals rehearsals = store.get(Rehearsals.class);
        store.run("TRUNCATE rehearsal");
        UUID[] ids = {UUID.randomUUID(), UUID.randomUUID(), UUID.randomUUID()};
        for (UUID id : ids) {
            rehearsals.ask(id, "ina", "{}", 1);
        }
        rehearsals.ended(ids[0], "done", "{}", "");
        rehearsals.ended(ids[1], "done", "{}", "");
        rehearsals.applied(ids[1], "{}", null);
        assertThat(rehearsals.find(ids[0], "ina")).isPresent();
        assertThat(rehearsals.find(ids[0], "ines"))
                .as("it is its asker's alone")
                .isEmpty();
        assertThat(rehearsals.forget(Instant.now().minusSeconds(60))).isZero();
        assertThat(rehearsals.forget(Instant.now().plusSeconds(60))).isEqualTo(2);
        assertThat(rehearsals.find(ids[1], "ina")).isPresent();
    }

    @Test
    void coverEndsOnADay() {
        capture(0, "1");
        store.get(CoverPeriod.class).end(scene.person(0), LocalDate.parse("2026-05-04"), "ina");
        scene.settle();
        assertThat(timeline(ADMINISTRATOR)).isEmpty();
        store.get(CoverPeriod.class).end(scene.person(0), LocalDate.parse("2026-05-05"), "ina");
        assertThat(store.get(Positions.class).allToRefetch()).isEqualTo(1);
    }

    @Test
    void aTeamReadsAndAPersonMayNarrow() {
        capture(0, "1");
        Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
        policies.change(now.with(Sharing.TEAM), "ina");
        scene.settle();
        Viewer mate = new Viewer(Role.REP, scene.person(1), Viewer.team("East"));
        Viewer stranger = new Viewer(Role.REP, UUID.randomUUID(), Viewer.team("West"));
        assertThat(timeline(mate).get(0).visibility()).isEqualTo(Visibility.FULL);
        assertThat(timeline(stranger).get(0).visibility()).isEqualTo(Visibility.OUTLINE);
        assertThat(Finding.found(store, "About", mate).total()).isEqualTo(1);
        roster.sharing(scene.person(0), Sharing.OWNER, "p0");
        scene.settle();
        assertThat(timeline(mate).get(0).visibility()).isEqualTo(Visibility.OUTLINE);
        assertThat(Finding.found(store, "About", mate).total()).isZero();
        policies.back(Policy.FIRST, now.version(), "ina");
    }

    @Test
    void aRulingOpensOneItemAndSaysSo() {
        capture(0, "1");
        UUID item = timeline(ADMINISTRATOR).get(0).id();
        Rulings rulings = store.get(Rulings.class);
        Viewer other = new Viewer(Role.REP, scene.person(1));
        rulings.rule(item, new Ruling(false, Set.of(), "Person 0", "nobody else"), scene.person(0), "p0");
        assertThat(timeline(other).get(0).visibility()).isEqualTo(Visibility.OUTLINE);
        rulings.rule(item, new Ruling(false, Set.of(scene.person(1)), "Person 0", "Person 1"), scene.person(0), "p0");
        assertThat(timeline(other).get(0).visibility()).isEqualTo(Visibility.FULL);
        assertThat(store.get(Timelines.class).open(item, other).orElseThrow().readers())
                .containsExactly("Person 0 closed it to all but Person 1.");
        rulings.rule(item, null, scene.person(0), "p0");
        assertThat(timeline(ADMINISTRATOR).get(0).visibility()).isEqualTo(Visibility.FULL);
        assertThat(rulings.isOwner(item, scene.person(1))).isFalse();
    }

    @Test
    void whatSomebodyClosedIsClosedOnEveryWayOut() {
        SourceRef place = scene.place(0);
        MailItem item = mail("closed", "bram@port.example", "p0@corvane.example", "new@beside.example");
        store.get(Intake.class).take(place, List.of(seen("1/1", item)), List.of(), null);
        UUID id = timeline(ADMINISTRATOR).get(0).id();
        Viewer other = new Viewer(Role.ADMINISTRATOR, scene.person(1));
        Strangers strangers = store.get(Strangers.class);
        assertThat(strangers.all(other, "", Scene.NOON)).hasSize(2);
        assertThat(byAddress(other)).hasSize(1);
        assertThat(strangers.meeting(Policy.FIRST, ANYBODY, Scene.NOON)).hasSize(2);
        store.get(Rulings.class)
                .rule(id, new Ruling(false, Set.of(), "Person 0", "nobody else"), scene.person(0), "p0");
        assertThat(strangers.all(other, "", Scene.NOON)).isEmpty();
        assertThat(byAddress(other)).isEmpty();
        assertThat(store.get(Decisions.class).of(id, other))
                .allMatch(d -> d.visibility() == Visibility.OUTLINE)
                .allMatch(d -> d.position().isEmpty() && d.source().isEmpty() && d.item() == null);
        // nor is a contact that all can see made of whom only this shows
        assertThat(strangers.meeting(Policy.FIRST, ANYBODY, Scene.NOON)).isEmpty();
        Viewer own = new Viewer(Role.REP, scene.person(0));
        assertThat(strangers.all(own, "", Scene.NOON)).hasSize(2);
        assertThat(store.get(Decisions.class).of(id, own)).allMatch(d -> d.visibility() == Visibility.FULL);
    }

    private static final Creation ANYBODY = new Creation(
            Creation.Makes.CONTACTS,
            List.of(new Creation.Condition(Creation.Field.ITEMS, Creation.Comparison.AT_LEAST, 1)));

    private static List<Decisions.Shown> byAddress(Viewer viewer) {
        DecisionFilter filter = new DecisionFilter(
                "",
                "",
                "",
                null,
                null,
                null,
                null,
                Instant.EPOCH,
                Instant.parse("2100-01-01T00:00:00Z"),
                "new@beside.example");
        return store.get(Decisions.class).page(filter, viewer, PageCursor.TOP, 10);
    }

    @Test
    void whatIsGoneFromItsSourceIsKeptWhereThePolicySaysSo() {
        Policy first = policies.find(Policy.FIRST).orElseThrow().policy();
        policies.change(
                first.with(Handling.SAFE.withDeleted(Handling.Vanished.REMOVE, Handling.Vanished.REMOVE)), "ina");
        Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
        policies.change(now.with(Handling.SAFE.withDeleted(Handling.Vanished.MARK, Handling.Vanished.MARK)), "ina");
        SourceRef place = capture(0, "1");
        store.get(Intake.class).take(place, List.of(), List.of("1/1"), null);
        assertThat(timeline(ADMINISTRATOR)).hasSize(1);
        policies.back(Policy.FIRST, now.version(), "ina");
        scene.settle();
        assertThat(timeline(ADMINISTRATOR)).isEmpty();
    }

    @Test
    void exclusionsOfOtherKindsTakeOffWhatIsThere() {
        capture(0, "1");
        Exclusions exclusions = store.get(Exclusions.class);
        Exclusion pattern =
                new Exclusion(UUID.randomUUID(), Exclusion.Kind.PATTERN, "*@port.ex*", "", Exclusion.Limits.NONE);
        exclusions.add(List.of(pattern), "ina");
        scene.settle();
        assertThat(timeline(ADMINISTRATOR)).isEmpty();
        exclusions.remove(List.of(pattern.id()), "ina");
        assertThat(store.get(Positions.class).allToRefetch()).isEqualTo(1);
    }

    @Test
    void heavyOneWaySendersAreSuggested() {
        SourceRef place = scene.place(0);
        for (int i = 0; i < 5; i++) {
            String to = i == 4 ? "them@answered.example" : "p0@corvane.example";
            String from = i == 4 ? "p0@corvane.example" : "n" + i + "@news.example";
            store.get(Intake.class).take(place, List.of(seen("1/" + i, mail("s" + i, from, to))), List.of(), null);
        }
        assertThat(store.get(ExclusionSuggestions.class).find(3, EVERYONE))
                .containsExactly(new ExclusionSuggestions.Suggestion("@news.example", "one-way", 4, 1));
        assertThat(store.get(ExclusionSuggestions.class).find(5, EVERYONE)).isEmpty();
    }

    @Test
    void aSuggestionTellsNothingOfWhatOneMayNotRead() throws Exception {
        scene.people(3);
        policies.change(policies.find(Policy.FIRST).orElseThrow().policy().with(Sharing.THOSE_ON_IT), "ina");
        for (int i = 0; i < 4; i++) {
            take(0, "1/" + i, mail("s" + i, "n" + i + "@news.example", "p0@corvane.example"));
        }
        assertThat(store.get(ExclusionSuggestions.class).find(3, EVERYONE)).isEmpty();
        Viewer own = new Viewer(Role.ADMINISTRATOR, scene.person(0));
        assertThat(store.get(ExclusionSuggestions.class).find(3, own)).hasSize(1);
        // what several people have is nobody's own
        for (int person = 1; person < 3; person++) {
            take(person, "1/9", mail("t" + person, "n@news.example", "p" + person + "@corvane.example"));
        }
        assertThat(store.get(ExclusionSuggestions.class).find(3, EVERYONE)).hasSize(1);
    }

    private void take(int person, String position, MailItem item) {
        store.get(Intake.class).take(scene.place(person), List.of(seen(position, item)), List.of(), null);
    }

    @Test
    void anEditedRowOfTheJournalIsFoundAndWhere() throws SQLException {
        store.run("TRUNCATE journal");
        Journal journal = store.get(Journal.class);
        assertThat(journal.verify().broken()).isZero();
        Policy now = policies.find(Policy.FIRST).orElseThrow().policy();
        for (Sharing sharing : List.of(Sharing.OWNER, Sharing.TEAM, now.sharing())) {
            Policy last = policies.find(Policy.FIRST).orElseThrow().policy();
            policies.change(last.with(sharing), "ina");
        }
        Journal.Verified whole = journal.verify();
        assertThat(whole.entries()).isEqualTo(3);
        assertThat(whole.broken()).isZero();
        store.run("UPDATE journal SET who = 'ida' WHERE number = 2");
        assertThat(journal.verify().broken()).isEqualTo(2);
        store.run("UPDATE journal SET who = 'ina' WHERE number = 2");
        assertThat(journal.verify()).isEqualTo(whole);
        store.run("DELETE FROM journal WHERE number = 2");
        assertThat(journal.verify().why()).isEqualTo("entry 2 is missing");
    }

    @Test
    void nobodyIsCapturedWhomNoPolicyHasEverHad() throws SQLException {
        store.run("DELETE FROM cover");
        capture(0, "1");
        assertThat(timeline(ADMINISTRATOR)).isEmpty();
        assertThat(store.get(Tallies.class).summary(ADMINISTRATOR).sums())
                .extracting(Tallies.Sum::rule)
                .containsExactly(Rule.NOT_COVERED.name());
    }
}
