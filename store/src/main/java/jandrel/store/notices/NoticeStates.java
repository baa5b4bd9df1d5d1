package jandrel.store.notices;

import jandrel.core.notice.NoticeChoice;
import jandrel.store.kernel.News;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.apache.ibatis.annotations.Delete;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.jspecify.annotations.Nullable;

/** What each sign-in chose, and has read, put off and been sent. */
@Mapper
public interface NoticeStates {
    /** @param dailyAt such as {@code 07:30} */
    record Chosen(
            boolean rings,
            boolean mails,
            int minutesBefore,
            boolean besideCalendar,
            boolean daily,
            String dailyAt,
            String zone) {
        public static Chosen of(NoticeChoice c) {
            return new Chosen(
                    c.rings(),
                    c.mails(),
                    c.minutesBefore(),
                    c.besideCalendar(),
                    c.daily(),
                    c.dailyAt().toString(),
                    c.zone().getId());
        }

        public NoticeChoice choice() {
            return new NoticeChoice(
                    rings, mails, minutesBefore, besideCalendar, daily, LocalTime.parse(dailyAt), ZoneId.of(zone));
        }
    }

    record State(
            String key, @Nullable Instant readAt, @Nullable Instant snoozedUntil) {}

    @Select("""
            SELECT rings, mails, minutes_before, beside_calendar, daily, daily_at, zone FROM notice_choice WHERE sign_in = #{signIn}
            """)
    Optional<Chosen> chosen(@Param("signIn") UUID signIn);

    @Insert("""
            INSERT INTO notice_choice VALUES (#{signIn}, #{c.rings}, #{c.mails}, #{c.minutesBefore}, #{c.besideCalendar}, #{c.daily},
                #{c.dailyAt}, #{c.zone})
            ON CONFLICT (sign_in) DO UPDATE SET rings = excluded.rings, mails = excluded.mails, minutes_before = excluded.minutes_before,
                beside_calendar = excluded.beside_calendar, daily = excluded.daily, daily_at = excluded.daily_at, zone = excluded.zone
            """)
    int choose(@Param("signIn") UUID signIn, @Param("c") Chosen chosen);

    @Select("SELECT key, read_at, snoozed_until FROM notice_state WHERE sign_in = #{signIn} AND key = ANY(#{keys})")
    List<State> states(@Param("signIn") UUID signIn, @Param("keys") String[] keys);

    /** What was read is no longer put off, nor the other way round. */
    @Insert("""
            INSERT INTO notice_state (sign_in, key, read_at, snoozed_until, touched_at)
            SELECT #{signIn}, k, #{read}::timestamptz, #{snoozed}::timestamptz, #{now} FROM unnest(#{keys}::text[]) k ORDER BY k
            ON CONFLICT (sign_in, key) DO UPDATE SET read_at = excluded.read_at, snoozed_until = excluded.snoozed_until,
                touched_at = excluded.touched_at
            """)
    int mark(
            @Param("signIn") UUID signIn,
            @Param("keys") String[] keys,
            @Param("read") @Nullable Instant read,
            @Param("snoozed") @Nullable Instant snoozed,
            @Param("now") Instant now);

    /** @return 1 for whoever is to send it; 0 when it was sent, read or put off before */
    @Insert("""
            INSERT INTO notice_state (sign_in, key, mailed_at, touched_at) VALUES (#{signIn}, #{key}, #{now}, #{now})
            ON CONFLICT (sign_in, key) DO UPDATE SET mailed_at = excluded.mailed_at, touched_at = excluded.touched_at
            WHERE notice_state.mailed_at IS NULL AND notice_state.read_at IS NULL
              AND (notice_state.snoozed_until IS NULL OR notice_state.snoozed_until <= #{now})
            """)
    int claimMail(@Param("signIn") UUID signIn, @Param("key") String key, @Param("now") Instant now);

    /** Those that get mail. */
    @Select("""
            SELECT c.sign_in FROM notice_choice c JOIN sign_in s ON s.id = c.sign_in
            WHERE (c.mails OR c.daily) AND s.person IS NOT NULL ORDER BY 1
            """)
    List<UUID> mailed();

    @Delete("DELETE FROM notice_state WHERE touched_at < #{before}")
    int forget(@Param("before") Instant before);

    /** Tells the pages of one sign-in, on whatever device and node, that its notices have changed. */
    @Select(News.ANNOUNCE)
    @Options(flushCache = Options.FlushCachePolicy.TRUE)
    long announce(@Param("words") String words);
}
