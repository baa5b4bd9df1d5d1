package jandrel.core.reconcile;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Details.When;
import jandrel.core.reconcile.Preference.Deleted;
import jandrel.core.reconcile.Preference.Wins;
import java.time.Instant;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MergeTest {
    private static final Instant TEN = Instant.parse("2026-05-04T10:00:00Z");

    private static Details details(String title, int hour, String... guests) {
        Instant begins = TEN.plusSeconds(3600L * hour);
        return new Details(
                title,
                new When(begins, begins.plusSeconds(1800), false, ""),
                "",
                "",
                "",
                true,
                Privacy.PUBLIC,
                Details.NONE,
                new TreeSet<>(Set.of(guests)),
                new TreeMap<>(),
                false);
    }

    private static Merge<Details> merge(
            @Nullable Details agreed, @Nullable Details here, @Nullable Details there, Wins wins) {
        // the calendar's is the later
        return Merge.of(
                Field.MEETING,
                Base.of(agreed),
                new Side<>(here, TEN),
                new Side<>(there, TEN.plusSeconds(60)),
                new Preference(wins, false, Deleted.REMOVE, Deleted.REMOVE, true));
    }

    @Test
    void changesOfDifferentFieldsBothStand() {
        Merge<Details> merge = merge(details("A", 0), details("B", 0), details("A", 2), Wins.LATER);
        assertThat(merge.result()).isEqualTo(details("B", 2));
        assertThat(merge.conflicts()).isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"HERE, B, true", "THERE, C, false", "LATER, C, false"})
    void ofTwoChangesOfOneFieldThePolicyChoosesAndTheOtherIsKept(Wins wins, String title, boolean hereWon) {
        Merge<Details> merge = merge(details("A", 0), details("B", 0), details("C", 0), wins);
        assertThat(merge.result()).isEqualTo(details(title, 0));
        assertThat(merge.conflicts()).singleElement().satisfies(c -> {
            assertThat(c.field()).isEqualTo(Field.TITLE);
            assertThat(c.here()).isEqualTo("B");
            assertThat(c.there()).isEqualTo("C");
            assertThat(c.hereWon()).isEqualTo(hereWon);
            assertThat(c.lost()).isEqualTo(details(hereWon ? "C" : "B", 0));
        });
    }

    @Test
    void whereNothingIsTakenUpOursIsPutBackAndWhatTheCalendarSaidIsKept() {
        Preference out = new Preference(Wins.THERE, false, Deleted.KEEP, Deleted.REMOVE, false);
        Details answered = details("A", 2, "ann", "bob");
        answered = answered.answered(new TreeMap<>(java.util.Map.of("ann", Answer.ACCEPTED)));
        Merge<Details> merge = Merge.of(
                Field.MEETING,
                Base.of(details("A", 0, "ann")),
                new Side<>(details("B", 0, "ann"), TEN),
                new Side<>(answered, TEN.plusSeconds(60)),
                out);
        // but for what a guest answered, who is not the calendar
        assertThat(merge.result())
                .isEqualTo(details("B", 0, "ann").answered(new TreeMap<>(java.util.Map.of("ann", Answer.ACCEPTED))));
        assertThat(merge.conflicts()).extracting(c -> c.field()).containsExactly(Field.WHEN, Field.GUESTS);
        assertThat(merge.conflicts()).allMatch(c -> c.hereWon());
        // what was deleted there does not come back
        Merge<Details> deleted = Merge.of(
                Field.MEETING, Base.of(details("A", 0)), new Side<>(details("A", 0), TEN), new Side<>(null, TEN), out);
        assertThat(deleted.result()).isNull();
        assertThat(deleted.deletedHere()).isFalse();
    }

    @Test
    void theSameChangeOnBothSidesIsNoConflict() {
        Merge<Details> merge = merge(details("A", 0), details("B", 0), details("B", 0), Wins.HERE);
        assertThat(merge.result()).isEqualTo(details("B", 0));
        assertThat(merge.conflicts()).isEmpty();
    }

    @Test
    void guestsAreMergedOneByOne() {
        Merge<Details> merge = merge(
                details("A", 0, "ann", "bob"),
                details("A", 0, "ann", "cleo"),
                details("A", 0, "bob", "dan", "ann"),
                Wins.HERE);
        assertThat(merge.result()).isEqualTo(details("A", 0, "ann", "cleo", "dan"));
        assertThat(merge.conflicts()).isEmpty();
    }

    private static Details answered(Answer ann, Answer bob) {
        TreeMap<String, Answer> answers = new TreeMap<>();
        if (ann != null) {
            answers.put("ann", ann);
        }
        if (bob != null) {
            answers.put("bob", bob);
        }
        return details("A", 0, "ann", "bob").answered(answers);
    }

    @Test
    void answersAreMergedGuestByGuest() {
        Merge<Details> each = merge(
                answered(null, null), answered(Answer.ACCEPTED, null), answered(null, Answer.DECLINED), Wins.HERE);
        assertThat(each.result()).isEqualTo(answered(Answer.ACCEPTED, Answer.DECLINED));
        assertThat(each.conflicts()).isEmpty();
        Merge<Details> clash = merge(
                answered(Answer.TENTATIVE, null),
                answered(Answer.ACCEPTED, null),
                answered(Answer.DECLINED, Answer.ACCEPTED),
                Wins.THERE);
        assertThat(clash.result()).isEqualTo(answered(Answer.DECLINED, Answer.ACCEPTED));
        assertThat(clash.conflicts()).singleElement().satisfies(c -> {
            assertThat(c.field()).isEqualTo(Field.ANSWERS);
            assertThat(c.here()).isEqualTo("ann accepted");
            assertThat(c.there()).isEqualTo("ann declined, bob accepted");
        });
    }

    @Test
    void theAnswerOfWhoIsTakenOffGoesWithThem() {
        Merge<Details> merge = merge(
                details("A", 0, "ann"),
                details("A", 0),
                details("A", 0, "ann").answered(new TreeMap<>(java.util.Map.of("ann", Answer.ACCEPTED))),
                Wins.LATER);
        assertThat(merge.result()).isEqualTo(details("A", 0));
    }

    @Test
    void aDeletionAgainstNothingIsOneAndAgainstAChangeTheChangeLives() {
        assertThat(merge(details("A", 0), null, details("A", 0), Wins.LATER).result())
                .isNull();
        Merge<Details> lives = merge(details("A", 0), null, details("B", 0), Wins.LATER);
        assertThat(lives.result()).isEqualTo(details("B", 0));
        assertThat(lives.conflicts())
                .singleElement()
                .satisfies(c -> assertThat(c.field()).isNull());
    }

    @Test
    void whatOneSideAloneHasAndNobodyAgreedOnIsNew() {
        assertThat(merge(null, details("A", 0), null, Wins.LATER).result()).isEqualTo(details("A", 0));
        assertThat(merge(null, null, details("A", 0), Wins.LATER).result()).isEqualTo(details("A", 0));
    }

    @Test
    void aBeginningNeverMeetsTheOtherSidesEnd() {
        Merge<Details> merge = merge(details("A", 0), details("A", 3), details("A", 5), Wins.THERE);
        assertThat(merge.result()).isEqualTo(details("A", 5));
        assertThat(merge.conflicts())
                .singleElement()
                .satisfies(c -> assertThat(c.field()).isEqualTo(Field.WHEN));
    }
}
