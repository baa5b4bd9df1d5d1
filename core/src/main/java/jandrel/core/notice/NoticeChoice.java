package jandrel.core.notice;

import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;

/**
 * How somebody wants to be told of what concerns them.
 *
 * @param rings whether meetings ring in the console
 * @param mails whether a meeting that is due is told of by mail
 * @param minutesBefore how long before it begins a meeting is due that says nothing of it; {@link #NEVER} for not at all
 * @param besideCalendar whether meetings ring here, too, that their calendar rings
 * @param daily whether one mail a day says what there is
 * @param dailyAt when that goes, in their zone
 * @param zone theirs: whole days are reminded of by its clock
 */
public record NoticeChoice(
        boolean rings,
        boolean mails,
        int minutesBefore,
        boolean besideCalendar,
        boolean daily,
        LocalTime dailyAt,
        ZoneId zone) {
    public static final int NEVER = -1;

    /** For whoever chose nothing: in the console alone, a quarter of an hour before. */
    public static final NoticeChoice USUAL =
            new NoticeChoice(true, false, 15, false, false, LocalTime.of(7, 30), ZoneOffset.UTC);
}
