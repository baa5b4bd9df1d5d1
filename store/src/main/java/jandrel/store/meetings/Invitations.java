package jandrel.store.meetings;

import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.InvitationDiff;
import jandrel.store.kernel.Json;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import org.apache.ibatis.annotations.Insert;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.annotations.Update;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The invitations of managed meetings: what each guest was last sent, and what they answered. */
@Component
public class Invitations {
    private final Mapped mapper;
    private final ManagedMeetings plans;
    private final Clock clock;

    /** How a guest is written to. */
    public enum Way {
        MAIL,
        /** By a calendar server that schedules (RFC 6638). */
        SERVER
    }

    /** @param trouble why it did not reach the guest; empty when it did */
    public record Asked(String guest, Way way, Details details, boolean withdrawn, Instant at, String trouble) {}

    /** @param guest who answers; they must have written it themselves */
    public record Answered(
            String uid, @Nullable Instant recurrence, String guest, Answer answer, int sequence, Instant stamp) {}

    @Mapper
    interface Mapped {
        record Row(String guest, String way, String details, boolean withdrawn, Instant at, String trouble) {}

        record Known(@Nullable Integer since, @Nullable Instant answeredAt) {}

        @Select(
                "SELECT guest, way, details, withdrawn, at, trouble FROM invitation WHERE meeting = #{meeting} ORDER BY guest")
        List<Row> sent(@Param("meeting") UUID meeting);

        @Insert("""
                INSERT INTO invitation (meeting, guest, way, details, withdrawn, since, at, trouble)
                VALUES (#{meeting}, #{guest}, #{way}, #{details}, #{withdrawn}, #{sequence}, #{at}, #{trouble})
                ON CONFLICT (meeting, guest) DO UPDATE SET way = excluded.way, details = excluded.details, withdrawn = excluded.withdrawn,
                    since = CASE WHEN invitation.details::jsonb -> 'when' = excluded.details::jsonb -> 'when' AND NOT invitation.withdrawn
                        THEN invitation.since ELSE excluded.since END,
                    at = excluded.at, trouble = excluded.trouble
                """)
        int put(
                @Param("meeting") UUID meeting,
                @Param("guest") String guest,
                @Param("way") String way,
                @Param("details") String details,
                @Param("withdrawn") boolean withdrawn,
                @Param("sequence") int sequence,
                @Param("at") Instant at,
                @Param("trouble") String trouble);

        @Select("""
                SELECT id FROM managed_meeting WHERE uid = #{uid} AND owner = #{owner} AND recurrence IS NOT DISTINCT FROM #{recurrence} FOR UPDATE
                """)
        Optional<UUID> plan(
                @Param("uid") String uid,
                @Param("owner") UUID owner,
                @Param("recurrence") @Nullable Instant recurrence);

        @Select("SELECT since, answered_at FROM invitation WHERE meeting = #{meeting} AND guest = #{guest}")
        Optional<Known> known(@Param("meeting") UUID meeting, @Param("guest") String guest);

        @Update("UPDATE invitation SET answered_at = #{at} WHERE meeting = #{meeting} AND guest = #{guest}")
        int answered(@Param("meeting") UUID meeting, @Param("guest") String guest, @Param("at") Instant at);
    }

    Invitations(Mapped mapper, ManagedMeetings plans, Clock clock) {
        this.mapper = mapper;
        this.plans = plans;
        this.clock = clock;
    }

    /** What each guest was last sent; those whom it did not reach are among them. */
    public List<Asked> asked(UUID meeting) {
        return mapper.sent(meeting).stream()
                .map(r -> new Asked(
                        r.guest(), Way.valueOf(r.way()), Json.details(r.details()), r.withdrawn(), r.at(), r.trouble()))
                .toList();
    }

    /** What {@link InvitationDiff} goes by. */
    public Map<String, InvitationDiff.LastLetter> lastLetters(UUID meeting) {
        Map<String, InvitationDiff.LastLetter> last = new TreeMap<>();
        asked(meeting).forEach(a -> last.put(a.guest(), new InvitationDiff.LastLetter(a.details(), a.withdrawn())));
        return last;
    }

    /** @param trouble why it will never reach the guest; empty when it was sent */
    @Transactional
    public void note(ManagedMeeting plan, InvitationDiff.Letter letter, Way way, String trouble) {
        mapper.put(
                plan.id(),
                letter.guest(),
                way.name(),
                Json.write(letter.details()),
                letter.sort() == InvitationDiff.Sort.WITHDRAWN,
                plan.sequence(),
                clock.instant(),
                trouble);
    }

    /**
     * Whether an answer is to what a calendar program asked, of a meeting that was made there: to the time that it has now. To one that
     * was moved here since, an answer must be to that move.
     */
    private static boolean asksElsewhere(ManagedMeeting plan, Answered answered) {
        if (plan.madeHere() || plan.details() == null) {
            return false;
        }
        boolean moved = !plan.details().when().begins().equals(plan.template().at())
                || !plan.details().when().ends().equals(plan.template().ends());
        return answered.sequence() >= (moved ? plan.sequence() : plan.template().sequence());
    }

    /**
     * Takes a guest's answer. One to an earlier time of the meeting, one that was overtaken by a later one, and one of somebody who was
     * not asked changes nothing.
     *
     * @param owner in whose mailbox it came
     * @return whether it changed anything
     */
    @Transactional
    public boolean take(UUID owner, Answered answered) {
        Optional<UUID> found = mapper.plan(answered.uid(), owner, answered.recurrence());
        ManagedMeeting plan = found.flatMap(plans::one).orElse(null);
        if (plan == null || plan.details() == null || !plan.details().guests().contains(answered.guest())) {
            return false;
        }
        Mapped.Known known = mapper.known(plan.id(), answered.guest()).orElseGet(() -> new Mapped.Known(null, null));
        boolean stale = known.since() == null ? !asksElsewhere(plan, answered) : answered.sequence() < known.since();
        boolean overtaken = known.answeredAt() != null && !answered.stamp().isAfter(known.answeredAt());
        if (stale || overtaken) {
            return false;
        }
        mapper.answered(plan.id(), answered.guest(), answered.stamp());
        return plans.answered(plan.id(), answered.guest(), answered.answer());
    }
}
