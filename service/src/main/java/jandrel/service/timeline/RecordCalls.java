package jandrel.service.timeline;

import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import jandrel.api.RecordApi.TouchCounts;
import jandrel.service.kernel.Paging;
import jandrel.service.kernel.Refusal;
import jandrel.store.directory.RecordRefs;
import jandrel.store.timeline.KnownRecord;
import jandrel.store.timeline.RecordFilter;
import jandrel.store.timeline.RecordFilter.Touch;
import jandrel.store.timeline.Timelines;
import jandrel.store.timeline.Timelines.Order;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Looks records up. */
@RestController
class RecordCalls {
    private static final Set<String> KINDS = Set.of("", "contact", "lead", "account", "opportunity");
    private final Timelines timelines;
    private final RecordRefs refs;
    private final Clock clock;

    RecordCalls(Timelines timelines, RecordRefs refs, Clock clock) {
        this.refs = refs;
        this.timelines = timelines;
        this.clock = clock;
    }

    @GetMapping("/api/records")
    RecordPage find(
            @RequestParam(name = "name", defaultValue = "") String name,
            @RequestParam(name = "kind", defaultValue = "") String kind,
            @RequestParam(name = "owner", required = false) @Nullable UUID owner,
            @RequestParam(name = "sort", defaultValue = "name") String sort,
            @RequestParam(name = "touch", defaultValue = "") String touch,
            @RequestParam(name = "nothingNext", defaultValue = "false") boolean nothingNext,
            @RequestParam(name = "offset", defaultValue = "0") int offset,
            @RequestParam(name = "limit", defaultValue = "50") int limit) {
        if (!KINDS.contains(kind)) {
            throw Refusal.bad("There is no kind “" + kind + "”", "Kinds are contact, lead, account and opportunity.");
        }
        Order order = Arrays.stream(Order.values())
                .filter(o -> o.name().toLowerCase(Locale.ROOT).equals(sort))
                .findFirst()
                .orElseThrow(() -> Refusal.bad(
                        "Records cannot be sorted by “" + sort + "”", "Sort by name, touch, next or activity."));
        RecordFilter filter = new RecordFilter(kind, name.strip(), owner, touch(touch), nothingNext);
        Instant now = now();
        List<RecordInfo> found =
                timelines.records(filter, order, now, Math.max(0, offset), Paging.limit(limit)).stream()
                        .map(RecordCalls::shown)
                        .toList();
        return new RecordPage(timelines.recordCount(filter, now), found);
    }

    private static @Nullable Touch touch(String word) {
        if (word.isEmpty()) {
            return null;
        }
        return Arrays.stream(Touch.values())
                .filter(t -> t.word().equals(word))
                .findFirst()
                .orElseThrow(() -> Refusal.bad(
                        "“" + word + "” is no time of a last touch",
                        "Say day, week, month, quarter, longer or never."));
    }

    /** How many records of a kind were last touched when, and how many have nothing next. */
    @GetMapping("/api/records/touches")
    TouchCounts touches(@RequestParam(name = "kind", defaultValue = "account") String kind) {
        if (!KINDS.contains(kind)) {
            throw Refusal.bad("There is no kind “" + kind + "”", "Kinds are contact, lead, account and opportunity.");
        }
        Timelines.Touches touches = timelines.touches(kind, now());
        Map<String, Long> counts = new LinkedHashMap<>();
        touches.touched().forEach((touch, n) -> counts.put(touch.word(), n));
        return new TouchCounts(counts, touches.nothingNext());
    }

    /** One that became a part of another is that one: what is answered has another id then. */
    @GetMapping("/api/records/{id}")
    RecordInfo one(@PathVariable("id") UUID id) {
        return timelines
                .record(id, now())
                .or(() -> refs.mergedInto(id).flatMap(into -> timelines.record(into, now())))
                .map(RecordCalls::shown)
                .orElseThrow(() -> Refusal.notFound("record"));
    }

    private Instant now() {
        return clock.instant();
    }

    private static RecordInfo shown(KnownRecord r) {
        return new RecordInfo(
                r.kind(),
                r.id(),
                r.key(),
                r.name(),
                r.detail(),
                r.account(),
                orEmpty(r.accountName()),
                orEmpty(r.owner()),
                orEmpty(r.stage()),
                orEmpty(r.state()),
                r.value(),
                orEmpty(r.currency()),
                List.of(r.addresses()),
                List.of(r.phones()),
                r.archived(),
                r.activities(),
                r.lastTouch(),
                r.nextMeeting());
    }

    private static String orEmpty(@Nullable String text) {
        return text == null ? "" : text;
    }
}
