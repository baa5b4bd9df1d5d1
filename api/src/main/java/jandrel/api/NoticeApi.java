package jandrel.api;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What concerns whoever is signed in. A notice is there as long as its cause is. */
public final class NoticeApi {
    private NoticeApi() {}

    /**
     * @param key names its cause
     * @param kind {@code reminder}, {@code connection}, {@code held}, {@code conflict}, {@code token},
     *     {@code strangers}, {@code book} or {@code cards}
     * @param at since when; of a reminder, when the meeting begins
     * @param path where in the console something can be done about it
     * @param rings whether it is a reminder that is to be heard: due, not read, not put off
     */
    public record NoticeInfo(
            String key,
            String kind,
            String title,
            String detail,
            Instant at,
            boolean allDay,
            String path,
            boolean read,
            @Nullable Instant snoozedUntil,
            boolean rings) {}

    /**
     * @param unread how many of them are neither read nor put off
     * @param next when the next one comes by itself; null for none within a day
     */
    public record NoticePage(
            List<NoticeInfo> notices, int unread, @Nullable Instant next) {}

    /** @param keys of notices; those that are not there any more are passed over */
    public record NoticeMarks(List<String> keys, boolean read) {}

    /** @param minutes from now on, up to four weeks */
    public record NoticeSnooze(String key, int minutes) {}

    /**
     * How somebody wants to be told.
     *
     * @param rings whether meetings ring in the console
     * @param mails whether each meeting is told of by mail when it is due
     * @param minutesBefore how long before it begins; -1 for meetings alone that have a reminder of their own
     * @param besideCalendar whether meetings ring here, too, that their calendar rings
     * @param daily whether one mail a day says what there is
     * @param dailyAt such as {@code 07:30}
     * @param zone such as {@code Europe/Oslo}
     * @param address where mail goes; empty while there is none, or no mail server
     */
    public record NoticeChoiceInfo(
            boolean rings,
            boolean mails,
            int minutesBefore,
            boolean besideCalendar,
            boolean daily,
            String dailyAt,
            String zone,
            @Nullable String address) {}
}
