package jandrel.service.timeline;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ActivityApi.PlannedPage;
import jandrel.api.ActivityApi.TimelinePage;
import jandrel.api.ActivityApi.WeekInfo;
import jandrel.core.visibility.Viewer;
import jandrel.service.kernel.Paging;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.timeline.TimelineFilter;
import jandrel.store.timeline.Timelines;
import jandrel.store.timeline.Timelines.Entry;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Lists of activities: a timeline page by page, what is planned, what was found by words. */
@RestController
class TimelineListCalls {
    private final Timelines timelines;
    private final Clock clock;

    TimelineListCalls(Timelines timelines, Clock clock) {
        this.timelines = timelines;
        this.clock = clock;
    }

    /**
     * @param past only what was, and not what is planned
     * @param fold of each conversation only its newest message, with how many there are; a page may hold fewer than its limit then
     */
    @GetMapping("/api/records/{id}/timeline")
    TimelinePage timeline(
            @PathVariable("id") UUID record,
            @ParameterObject @ModelAttribute ActivityQuery query,
            @RequestParam(name = "past", defaultValue = "false") boolean past,
            @RequestParam(name = "fold", defaultValue = "false") boolean fold,
            @RequestParam(name = "next", defaultValue = "") String next,
            @RequestParam(name = "limit", defaultValue = "50") int limit,
            @AuthenticationPrincipal SignedIn me) {
        known(record);
        TimelineFilter filter = query.filter();
        Instant now = clock.instant();
        if (past && now.isBefore(filter.until())) {
            filter = filter.until(now);
        }
        Viewer viewer = me.viewer();
        List<Entry> page = timelines.page(record, filter, viewer, Paging.after(next), Paging.limit(limit));
        Map<UUID, List<UUID>> conversations = fold && !filter.splitsConversations()
                ? timelines.conversations(record, page, filter.until(), viewer)
                : Map.of();
        List<Entry> shown =
                page.stream().filter(e -> isNewest(e, conversations)).toList();
        return new TimelinePage(
                timelines.count(record, filter, viewer), infos(shown, conversations, viewer), next(page, limit));
    }

    private static boolean isNewest(Entry entry, Map<UUID, List<UUID>> conversations) {
        List<UUID> one = conversations.get(entry.id());
        return one == null || one.get(0).equals(entry.id());
    }

    /** What lies ahead on a timeline, the nearest first. */
    @GetMapping("/api/records/{id}/planned")
    PlannedPage planned(
            @PathVariable("id") UUID record,
            @ParameterObject @ModelAttribute ActivityQuery query,
            @RequestParam(name = "limit", defaultValue = "3") int limit,
            @AuthenticationPrincipal SignedIn me) {
        known(record);
        TimelineFilter filter = query.filter();
        Instant now = clock.instant();
        TimelineFilter ahead = filter.from().isBefore(now) ? filter.from(now) : filter;
        List<Entry> nearest = timelines.nearest(record, ahead, me.viewer(), Paging.limit(limit));
        return new PlannedPage(timelines.count(record, ahead, me.viewer()), infos(nearest, Map.of(), me.viewer()));
    }

    /** How much is on a timeline in each week in which something is. */
    @GetMapping("/api/records/{id}/weeks")
    List<WeekInfo> weeks(@PathVariable("id") UUID record) {
        known(record);
        return timelines.weeks(record).stream()
                .map(w -> new WeekInfo(w.begins(), w.mail(), w.meetings()))
                .toList();
    }

    private void known(UUID record) {
        if (!timelines.isRecord(record)) {
            throw Refusal.notFound("record");
        }
    }

    private List<ActivityInfo> infos(List<Entry> entries, Map<UUID, List<UUID>> conversations, Viewer viewer) {
        return Shown.activities(entries, timelines.previews(entries, viewer), conversations);
    }

    private static String next(List<Entry> entries, int limit) {
        Entry last = entries.isEmpty() ? null : entries.get(entries.size() - 1);
        return last != null && entries.size() == limit ? Paging.next(last.sorted(), last.id()) : "";
    }
}
