package jandrel.api;

import jandrel.api.ActivityApi.OwnerInfo;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Meetings, calls and follow-ups: in a calendar, made here, changed here. */
public final class MeetingApi {
    private MeetingApi() {}

    /**
     * One meeting in a calendar.
     *
     * @param visibility {@code full} or {@code outline}: then it shows as busy alone
     * @param state {@code planned}, {@code held}, {@code missed}, {@code cancelled} or {@code declined} (by everybody from outside);
     *     empty in an outline
     * @param sort {@code meeting}, {@code call} or {@code follow-up}; empty in an outline
     * @param account the account that it is about; empty for none, and in an outline
     * @param mine whether the asker's own calendar shows it
     * @param source the layer that it belongs to; null for none
     * @param result what came of it, as the company calls it; empty where nobody said, and in an outline
     */
    public record MeetingInfo(
            UUID id,
            Instant begins,
            Instant ends,
            boolean allDay,
            String visibility,
            String state,
            String sort,
            String title,
            String place,
            String account,
            List<OwnerInfo> owners,
            boolean mine,
            @Nullable Integer source,
            String result) {}

    /**
     * A calendar of somebody's.
     *
     * @param colour as its owner's program shows it, such as {@code #2e6f57}; may be empty
     */
    public record LayerInfo(int source, String label, UUID person, String personName, String colour) {}

    /** @param meetings how many there are on that day in all */
    public record DayInfo(LocalDate day, long meetings) {}

    /**
     * @param more whether there are more than are shown
     * @param days how many each day has, where the first of each day were asked for
     */
    public record CalendarPage(List<MeetingInfo> meetings, List<LayerInfo> layers, boolean more, List<DayInfo> days) {}

    /** From one instant until before another. */
    public record SpanInfo(Instant from, Instant until) {}

    /** When one person is busy. */
    public record BusyInfo(UUID person, String name, List<SpanInfo> busy) {}

    /** @param free when all of them are free for long enough */
    public record FreePage(List<BusyInfo> people, List<SpanInfo> free) {}

    /**
     * Something to be made.
     *
     * @param sort {@code meeting}, {@code call} or {@code follow-up}
     * @param records the records that it is for, at least one
     * @param guests addresses of those who are asked
     * @param person whose it is; the asker's own if it is absent
     * @param zone the IANA zone that it is meant in; UTC if it is absent
     * @param reminder minutes before it begins; none if it is absent
     * @param isPrivate whether its owner alone reads it
     * @param ask whether the guests are asked to it; as the owner's policy says if it is absent
     */
    public record NewMeeting(
            String sort,
            String title,
            Instant begins,
            Instant ends,
            @Nullable Boolean allDay,
            @Nullable String zone,
            List<UUID> records,
            @Nullable List<String> guests,
            @Nullable UUID person,
            @Nullable String place,
            @Nullable String online,
            @Nullable String text,
            @Nullable Boolean busy,
            @Nullable Boolean isPrivate,
            @Nullable Integer reminder,
            @Nullable Boolean ask) {}

    /**
     * What is absent stays as it is.
     *
     * @param reminder -1 for none
     * @param ask whether the guests are asked, and told of changes, from now on
     * @param seen what the fields that change were when the change was begun; one that is something else by now is a conflict. Without
     *     it the change is made whatever they are
     */
    public record MeetingChange(
            @Nullable String title,
            @Nullable Instant begins,
            @Nullable Instant ends,
            @Nullable Boolean allDay,
            @Nullable String zone,
            @Nullable List<String> guests,
            @Nullable String place,
            @Nullable String online,
            @Nullable String text,
            @Nullable Boolean busy,
            @Nullable Boolean isPrivate,
            @Nullable Integer reminder,
            @Nullable Boolean cancelled,
            @Nullable Boolean ask,
            @Nullable MeetingChange seen) {
        public MeetingChange(
                @Nullable String title,
                @Nullable Instant begins,
                @Nullable Instant ends,
                @Nullable Boolean allDay,
                @Nullable String zone,
                @Nullable List<String> guests,
                @Nullable String place,
                @Nullable String online,
                @Nullable String text,
                @Nullable Boolean busy,
                @Nullable Boolean isPrivate,
                @Nullable Integer reminder,
                @Nullable Boolean cancelled,
                @Nullable Boolean ask) {
            this(
                    title, begins, ends, allDay, zone, guests, place, online, text, busy, isPrivate, reminder,
                    cancelled, ask, null);
        }

        public MeetingChange havingSeen(MeetingChange seen) {
            return new MeetingChange(
                    title, begins, ends, allDay, zone, guests, place, online, text, busy, isPrivate, reminder,
                    cancelled, ask, seen);
        }
    }

    /** @param item what was made or changed */
    public record MadeMeeting(UUID item, String says) {}

    public record MovedInfo(Instant at, Instant wasBegins, Instant wasEnds, Instant begins, Instant ends, String by) {}

    /**
     * How a meeting that was made or changed here stands with its owner's calendar.
     *
     * @param state {@code here} (it goes to no calendar), {@code going}, {@code in-step}, {@code detached} (the one side let go of it) or
     *     {@code trouble}
     * @param says the same in words
     */
    public record StandInfo(String state, String says, String calendar, int reminder, boolean busy) {}

    /**
     * Something that both sides wanted otherwise.
     *
     * @param field {@code title}, {@code when}, …; {@code deleted} where one side deleted what the other changed
     * @param stands {@code here} or {@code calendar}
     * @param here what stood here; empty for those who do not read the meeting, as is {@code calendar}
     * @param canComeBack whether what lost can be made to stand
     */
    public record ConflictInfo(
            UUID id,
            UUID item,
            String title,
            Instant at,
            String field,
            String stands,
            String here,
            String calendar,
            boolean canComeBack,
            @Nullable String broughtBackBy) {}

    /**
     * Somebody who is asked to a meeting.
     *
     * @param answer {@code accepted}, {@code tentative}, {@code declined}, {@code delegated}, or {@code none} yet; {@code group} for an
     *     address that several stand behind
     * @param asked how they were asked, in words; empty where that was not done from here
     * @param reached whether it reached them, as far as is known
     */
    public record GuestInfo(String address, String name, String answer, String asked, boolean reached) {}

    /**
     * @param guests who is asked to it, besides its organiser
     * @param asks whether guests are asked from here, and told of changes
     * @param outcomeBy who said how it went; empty for nobody
     * @param results what was said came of it, the newest first; what its title says is not among them
     * @param stand null for what was neither made nor changed here
     * @param mayChange whether the asker may change it
     * @param whyNot else
     */
    public record MeetingDetail(
            MeetingInfo meeting,
            List<MovedInfo> moved,
            String outcomeBy,
            List<SaidInfo> results,
            @Nullable StandInfo stand,
            List<ConflictInfo> conflicts,
            List<GuestInfo> guests,
            boolean asks,
            boolean mayChange,
            String whyNot) {}

    /** @param name of a result; empty where somebody took back what was said before */
    public record SaidInfo(String name, String by, Instant at) {}

    /** @param result one of the company's results; empty to take back what was said */
    public record MeetingResult(String result) {}

    /** @param words of a title or a category, by which a meeting says it itself */
    public record ResultInfo(String name, List<String> words) {}

    /** In the company's order. */
    public record ResultList(List<ResultInfo> results) {}

    /** @param state {@code held} or {@code missed}; empty to take back what was said */
    public record MeetingOutcome(String state) {}

    /** @param apply whether to do it; else it is only counted */
    public record SendOut(UUID person, boolean apply) {}

    public record SentOut(long meetings, List<String> titles, boolean applied) {}

    /**
     * What a sync run did to one calendar.
     *
     * @param read calendar files that were read, {@code gone} that vanished
     * @param sent meetings that were written there, {@code received} taken from there, {@code merged} changed on both sides, {@code
     *     refused} not let in
     */
    public record RunCounts(int read, int gone, int sent, int received, int merged, int refused) {}

    /**
     * How a calendar stands with what was made or changed here.
     *
     * @param nextRun when it is looked at next; null when it is not
     * @param brought what the last sync run that brought something did; null before the first
     * @param goesOut whether its person's policy lets anything out
     * @param outgoing whether what is made here goes there
     * @param held whether it is left alone because much vanished from it at once
     * @param alike how many stand alike on both sides
     * @param pendingSync how many have yet to be settled
     * @param stuck how many of those could not be
     * @param conflicts of the last ninety days
     */
    public record CalendarStand(
            int source,
            String label,
            String colour,
            UUID connection,
            UUID person,
            String personName,
            String state,
            @Nullable Instant lastRun,
            @Nullable Instant nextRun,
            @Nullable RunCounts brought,
            boolean goesOut,
            boolean outgoing,
            boolean held,
            boolean mayChange,
            long alike,
            long pendingSync,
            long stuck,
            long conflicts) {}

    /**
     * What somebody made that stands in no calendar and lies ahead.
     *
     * @param couldGo how many of them the policy lets out by now
     */
    public record HereStand(UUID person, String personName, long meetings, long couldGo) {}

    public record InStepPage(List<CalendarStand> calendars, List<HereStand> here) {}

    /** @param name what it is called */
    public record NewCalendar(String name) {}

    /**
     * A subscription to be made, of the record or the person with this id.
     *
     * @param kind {@code record} or {@code person}
     */
    public record NewFeed(String kind, UUID id) {}

    /** @param address only in the answer to its making: it is kept nowhere */
    public record FeedInfo(
            UUID id,
            String kind,
            String name,
            Instant madeAt,
            @Nullable Instant lastRead,
            @Nullable String address) {}

    /** @param week its Monday, such as 2026-05-04 */
    public record OutcomeCount(UUID person, String personName, String week, long held, long missed) {}
}
