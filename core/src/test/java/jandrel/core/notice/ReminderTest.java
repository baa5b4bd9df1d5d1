package jandrel.core.notice;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ReminderTest {
    private static final Instant TEN = Instant.parse("2026-05-04T10:00:00Z");
    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");

    private static NoticeChoice choice(int minutes, boolean besideCalendar) {
        return new NoticeChoice(true, false, minutes, besideCalendar, false, LocalTime.NOON, OSLO);
    }

    /** Who rings it, and when: its maker's word before the person's; never on both sides unless wanted. */
    @ParameterizedTest
    @CsvSource({
        "15, false, -1, false, 09:45",
        "15, false, 60, false, 09:00",
        "15, false, 0, false, 10:00",
        "0, false, -1, false, 10:00",
        "-1, false, -1, false, never",
        "-1, false, 30, false, 09:30",
        "15, false, -1, true, never",
        "15, false, 60, true, never",
        "15, true, -1, true, 09:45",
        "15, true, 60, true, 09:00",
    })
    void itIsDueWhenSomebodySaidSo(int wanted, boolean beside, int own, boolean calendarRings, String at) {
        Reminder reminder = new Reminder(TEN, TEN.plus(Duration.ofHours(1)), false, own, calendarRings);
        assertThat(reminder.due(choice(wanted, beside))
                        .map(due -> due.toString().substring(11, 16))
                        .orElse("never"))
                .isEqualTo(at);
    }

    @ParameterizedTest
    @CsvSource({
        "60, 09:44:59, false",
        "60, 09:45:00, true",
        "60, 10:59:59, true",
        "60, 11:00:00, false",
        // a call that takes no time is still to be made a while later
        "0, 10:59:59, true",
        "0, 11:00:00, false",
        "180, 12:59:59, true",
    })
    void itIsDueUntilTheMeetingIsOver(int minutes, String at, boolean due) {
        Reminder reminder = new Reminder(TEN, TEN.plus(Duration.ofMinutes(minutes)), false, NoticeChoice.NEVER, false);
        assertThat(reminder.isDue(choice(15, false), Instant.parse("2026-05-04T" + at + "Z")))
                .isEqualTo(due);
    }

    /** By the reader's own clock: the day is filed at midnight in UTC, and is the same day for everybody. */
    @Test
    void aWholeDayIsToldOfInItsMorning() {
        Instant day = Instant.parse("2026-05-04T00:00:00Z");
        Reminder two = new Reminder(day, day.plus(Duration.ofDays(2)), true, NoticeChoice.NEVER, false);
        assertThat(two.due(choice(15, false))).hasValue(Instant.parse("2026-05-04T06:00:00Z"));
        assertThat(two.over(OSLO)).isEqualTo(Instant.parse("2026-05-05T22:00:00Z"));
        Reminder withOwn = new Reminder(day, day, true, 60, false);
        assertThat(withOwn.due(choice(15, false))).hasValue(Instant.parse("2026-05-03T21:00:00Z"));
        assertThat(withOwn.over(OSLO)).isEqualTo(Instant.parse("2026-05-04T22:00:00Z"));
    }
}
