package jandrel.service.meetings;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.NewMeeting;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.service.kernel.Refusal;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** What people ask for when they create or change a meeting, and what is said to what does not fit. */
class MeetingInputTest {
    private static final Instant AT = Instant.parse("2026-05-04T08:00:00Z");

    private static NewMeeting wanted(
            String title,
            Instant begins,
            Instant ends,
            boolean allDay,
            @Nullable String zone,
            @Nullable List<String> guests,
            @Nullable String online,
            @Nullable String text,
            @Nullable Integer reminder) {
        return new NewMeeting(
                "meeting", title, begins, ends, allDay, zone, List.of(), guests, null, null, online, text, null, null,
                reminder, null);
    }

    private static NewMeeting plain() {
        return wanted("Mooring plan", AT, AT.plusSeconds(3600), false, "Europe/Oslo", null, null, null, null);
    }

    static Stream<Arguments> misfits() {
        Instant end = AT.plusSeconds(3600);
        Instant day = Instant.parse("2026-05-04T00:00:00Z");
        List<String> crowd = new ArrayList<>();
        for (int i = 0; i < 201; i++) {
            crowd.add("guest" + i + "@skarvik.example");
        }
        return Stream.of(
                Arguments.of(wanted(" ", AT, end, false, null, null, null, null, null), "title"),
                Arguments.of(wanted("a".repeat(401), AT, end, false, null, null, null, null, null), "title"),
                Arguments.of(wanted("two\nlines", AT, end, false, null, null, null, null, null), "one line"),
                Arguments.of(wanted("t", AT, AT.minusSeconds(1), false, null, null, null, null, null), "end after"),
                Arguments.of(
                        wanted("t", AT, AT.plus(Duration.ofDays(61)), false, null, null, null, null, null),
                        "sixty days"),
                Arguments.of(wanted("t", AT, end, true, null, null, null, null, null), "midnight"),
                Arguments.of(wanted("t", day, day, true, null, null, null, null, null), "midnight"),
                Arguments.of(wanted("t", AT, end, false, "Mars/Port", null, null, null, null), "no zone “Mars/Port”"),
                Arguments.of(wanted("t", AT, end, false, null, List.of("bob"), null, null, null), "“bob”"),
                Arguments.of(wanted("t", AT, end, false, null, crowd, null, null, null), "At most 200"),
                Arguments.of(wanted("t", AT, end, false, null, null, "http://meet.example", null, null), "https://"),
                Arguments.of(wanted("t", AT, end, false, null, null, "javascript:x", null, null), "https://"),
                Arguments.of(wanted("t", AT, end, false, null, null, "https://", null, null), "https://"),
                Arguments.of(wanted("t", AT, end, false, null, null, null, "x".repeat(50_001), null), "too long"),
                Arguments.of(wanted("t", AT, end, false, null, null, null, null, -2), "reminder"),
                Arguments.of(wanted("t", AT, end, false, null, null, null, null, 60 * 24 * 28 + 1), "reminder"));
    }

    @ParameterizedTest
    @MethodSource("misfits")
    void whatDoesNotFitIsNamed(NewMeeting wanted, String said) {
        Refusal refusal = catchThrowableOfType(Refusal.class, () -> Making.details(wanted));
        assertThat(refusal).isNotNull();
        assertThat(refusal.detail()).contains(said);
    }

    @Test
    void allThatDoesNotFitIsNamedAtOnce() {
        Refusal refusal = catchThrowableOfType(
                Refusal.class,
                () -> Making.details(wanted("", AT, AT.minusSeconds(9), false, "x", List.of("y"), "z", null, -9)));
        assertThat(refusal.detail()).contains("title", "end after", "no zone", "“y”", "online", "reminder");
    }

    @Test
    void whatIsNotSaidIsAsUsual() {
        Details d = Making.details(plain());
        assertThat(d.busy()).isTrue();
        assertThat(d.privacy()).isEqualTo(Privacy.PUBLIC);
        assertThat(d.reminder()).isEqualTo(Details.NONE);
        assertThat(d.guests()).isEmpty();
        assertThat(d.when().zone()).isEqualTo("Europe/Oslo");
    }

    @Test
    void aWholeDayHasNoZone() {
        Instant day = Instant.parse("2026-05-04T00:00:00Z");
        Details d = Making.details(
                wanted("t", day, day.plus(Duration.ofDays(1)), true, "Europe/Oslo", null, null, null, null));
        assertThat(d.when().zone()).isEmpty();
    }

    @Test
    void guestsAreOnceHoweverTheyAreWritten() {
        Details d = Making.details(wanted(
                "t",
                AT,
                AT.plusSeconds(60),
                false,
                null,
                List.of("Ann@Skarvik.example", "ann@skarvik.example"),
                null,
                null,
                null));
        assertThat(d.guests()).containsExactly("ann@skarvik.example");
    }

    private static MeetingChange moved(Instant begins) {
        return new MeetingChange(
                null, begins, null, null, null, null, null, null, null, null, null, null, null, null, null);
    }

    @Test
    void whatIsMovedKeepsItsLengthAndAsksItsGuestsAnew() {
        Details was = Making.details(wanted(
                        "t", AT, AT.plusSeconds(3600), false, null, List.of("ann@skarvik.example"), null, null, null))
                .answered(new TreeMap<>(Map.of("ann@skarvik.example", Answer.ACCEPTED)));
        Details now = Making.changed(was, moved(AT.plusSeconds(86_400)));
        assertThat(now.when().ends()).isEqualTo(AT.plusSeconds(90_000));
        assertThat(now.answers()).isEmpty();
        assertThat(Making.changed(was, moved(AT)).answers()).isEqualTo(was.answers());
    }

    @Test
    void whatIsNotNamedInAChangeStays() {
        Details was = Making.details(wanted(
                "t",
                AT,
                AT.plusSeconds(3600),
                false,
                "Europe/Oslo",
                List.of("ann@skarvik.example"),
                "https://m.example/1",
                "words",
                15));
        Details now = Making.changed(
                was,
                new MeetingChange(
                        "other",
                        null,
                        null,
                        null,
                        null,
                        null,
                        " a  place ",
                        null,
                        null,
                        false,
                        true,
                        null,
                        true,
                        null,
                        null));
        assertThat(now.title()).isEqualTo("other");
        assertThat(now.place()).isEqualTo("a place");
        assertThat(now.busy()).isFalse();
        assertThat(now.privacy()).isEqualTo(Privacy.PRIVATE);
        assertThat(now.cancelled()).isTrue();
        assertThat(now)
                .extracting(Details::when, Details::online, Details::text, Details::reminder, Details::guests)
                .containsExactly(was.when(), was.online(), was.text(), 15, was.guests());
    }

    @Test
    void thereAreThreeSorts() {
        assertThat(Making.sort("follow-up").word()).isEqualTo("follow-up");
        assertThatThrownBy(() -> Making.sort("party")).isInstanceOf(Refusal.class);
    }
}
