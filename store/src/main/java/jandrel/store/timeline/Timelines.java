package jandrel.store.timeline;

import jandrel.core.decide.Reason;
import jandrel.core.decide.Rule;
import jandrel.core.decide.Sentences;
import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.Party;
import jandrel.core.timeline.Conversations;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.PageCursor;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.TimelineMapper.ActivityRow;
import java.time.Duration;
import java.time.Instant;
import java.util.Collections;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Reads timelines. Every method takes the viewer and lets out what {@link Visibility} grants, no more. */
@Component
public class Timelines {
    private static final int MOST_AROUND = 400;
    private static final int MOST_IN_CONVERSATIONS = 600;
    private static final Duration AROUND = Duration.ofDays(120);
    private final TimelineMapper mapper;

    /**
     * An activity as one viewer gets it.
     *
     * @param item null unless the visibility is full
     * @param trail how it is marked, and why these readers; empty unless the visibility is full
     * @param evidence what ties it to the record whose timeline is read; empty elsewhere
     * @param sorted where it stands in the order of its page, which the viewer's own copy may see otherwise
     * @param wrote whether the viewer wrote it, and so knows who has a blind copy
     * @param ours whether one of our people wrote it
     */
    public record Entry(
            UUID id,
            String kind,
            Instant at,
            @Nullable Instant ends,
            boolean allDay,
            Visibility visibility,
            @Nullable Item item,
            List<Owner> owners,
            List<Reason> trail,
            String evidence,
            boolean wrote,
            Instant sorted,
            boolean ours) {
        /** {@code cancelled}, {@code deleted}, or empty. */
        public String mark() {
            for (Reason reason : trail) {
                if (reason.rule() == Rule.CANCELLED_MARKED) {
                    return "cancelled";
                }
                if (reason.rule() == Rule.GONE_MARKED) {
                    return "deleted";
                }
            }
            return "";
        }
    }

    /** @param text the beginning of what it says */
    public record Preview(String text, int attachments) {}

    /** A person of ours. */
    public record Owner(UUID id, String name) {}

    /** A record that an activity is linked to. */
    public record Linked(String kind, UUID id, String name, String evidence) {}

    /**
     * @param bodyState {@code here}, {@code wanted} or {@code gone}
     * @param readers why these read it, in sentences, where more than one rule had a say
     */
    public record Opened(Entry entry, List<Linked> links, Content content, String bodyState, List<String> readers) {}

    Timelines(TimelineMapper mapper) {
        this.mapper = mapper;
    }

    /** The timeline of one record, newest first. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Entry> page(UUID record, Viewer viewer, PageCursor before, int limit) {
        return entries(mapper.page(record, ids(viewer), before.at(), before.id(), limit), viewer);
    }

    /** What a filter leaves of it, newest first. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Entry> page(UUID record, TimelineFilter filter, Viewer viewer, PageCursor before, int limit) {
        return entries(
                mapper.filtered(record, filter, readsAnything(viewer), ids(viewer), before.at(), before.id(), limit),
                viewer);
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public long count(UUID record, TimelineFilter filter, Viewer viewer) {
        return filter.isOfTimeAlone()
                ? mapper.linkCount(record, filter.from(), filter.until())
                : mapper.filteredCount(record, filter, readsAnything(viewer), ids(viewer));
    }

    /** What a filter leaves of it, the nearest after its first moment first. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Entry> nearest(UUID record, TimelineFilter filter, Viewer viewer, int limit) {
        return entries(mapper.nearest(record, filter, readsAnything(viewer), ids(viewer), limit), viewer);
    }

    /** How much is in each week in which something is, the earliest first. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<TimelineWeek> weeks(UUID record) {
        return mapper.weeks(record);
    }

    /** The beginning of what each says, and how much is attached; only of those that the viewer reads in full. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Map<UUID, Preview> previews(List<Entry> of, Viewer viewer) {
        UUID[] full = of.stream()
                .filter(e -> e.visibility() == Visibility.FULL)
                .map(Entry::id)
                .toArray(UUID[]::new);
        Map<UUID, Preview> previews = new HashMap<>();
        if (full.length > 0) {
            mapper.previews(full, ids(viewer))
                    .forEach(p -> previews.put(
                            p.id(),
                            new Preview(
                                    p.text(), Json.attachments(p.attachments()).size())));
        }
        return previews;
    }

    /** What each says; only of those that the viewer reads in full. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Map<UUID, Content> contents(List<Entry> of, Viewer viewer) {
        UUID[] full = of.stream()
                .filter(e -> e.visibility() == Visibility.FULL)
                .map(Entry::id)
                .toArray(UUID[]::new);
        Map<UUID, Content> contents = new HashMap<>();
        if (full.length > 0) {
            mapper.contents(full, ids(viewer))
                    .forEach(c ->
                            contents.put(c.id(), new Content(c.text(), c.html(), Json.attachments(c.attachments()))));
        }
        return contents;
    }

    /**
     * The conversations that messages of a page belong to, as far as the viewer reads them in full on this record's timeline and before
     * a moment.
     *
     * @return each message's conversation of more than one, the newest first
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Map<UUID, List<UUID>> conversations(UUID record, List<Entry> page, Instant until, Viewer viewer) {
        List<Instant> mail = page.stream()
                .filter(e -> e.item() instanceof MailItem)
                .map(Entry::sorted)
                .toList();
        Map<UUID, List<UUID>> conversations = new HashMap<>();
        if (mail.isEmpty()) {
            return conversations;
        }
        Instant from = Collections.min(mail).minus(AROUND);
        Instant to = Collections.max(mail).plus(AROUND);
        TimelineFilter around =
                new TimelineFilter("mail", "", "", null, "", false, "", from, to.isBefore(until) ? to : until);
        Map<MailItem, Entry> all = new LinkedHashMap<>();
        page(record, around, viewer, PageCursor.TOP, MOST_IN_CONVERSATIONS).forEach(e -> {
            if (e.item() instanceof MailItem item) {
                all.put(item, e);
            }
        });
        for (List<MailItem> one : Conversations.all(List.copyOf(all.keySet()))) {
            if (one.size() > 1) {
                List<UUID> ids = one.stream()
                        .map(all::get)
                        .filter(Objects::nonNull)
                        .sorted(Comparator.comparing(Entry::sorted)
                                .thenComparing(Entry::id)
                                .reversed())
                        .map(Entry::id)
                        .toList();
                ids.forEach(id -> conversations.put(id, ids));
            }
        }
        return conversations;
    }

    public static UUID[] ids(Viewer viewer) {
        return viewer.ids().toArray(UUID[]::new);
    }

    /** Whether there is anything at all that the viewer reads in full. */
    public static boolean readsAnything(Viewer viewer) {
        return Visibility.of(viewer, Readers.EVERYONE) == Visibility.FULL;
    }

    /** One activity with its text, which only those who read it in full get. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Optional<Opened> open(UUID id, Viewer viewer) {
        return mapper.activity(id, ids(viewer))
                .map(row -> entries(List.of(row), viewer).get(0))
                .filter(e -> e.visibility() != Visibility.HIDDEN)
                .map(entry -> entry.visibility() == Visibility.FULL
                        ? full(entry, viewer)
                        : new Opened(entry, List.of(), Content.EMPTY, "here", List.of()));
    }

    private Opened full(Entry entry, Viewer viewer) {
        List<Linked> links = mapper.links(entry.id(), entry.wrote()).stream()
                .map(l -> new Linked(l.kind(), l.record(), l.name(), l.evidence()))
                .toList();
        List<String> why = Sentences.of(entry.trail());
        return mapper.body(entry.id(), ids(viewer))
                .map(b -> new Opened(
                        entry,
                        links,
                        new Content(b.text(), b.html(), Json.attachments(b.attachments())),
                        b.state(),
                        why))
                .orElseGet(() -> new Opened(entry, links, Content.EMPTY, "gone", why));
    }

    /** The conversation that a message is a part of, as far as the viewer reads it in full; the oldest first, itself among it. */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<Entry> conversation(Entry of, Viewer viewer) {
        if (!(of.item() instanceof MailItem mail)) {
            return List.of();
        }
        Map<MailItem, Entry> around = new LinkedHashMap<>();
        entries(mapper.around(of.id(), ids(viewer), MOST_AROUND), viewer).forEach(e -> {
            if (e.item() instanceof MailItem other) {
                around.put(other, e);
            }
        });
        around.put(mail, of);
        return Conversations.of(mail, List.copyOf(around.keySet())).stream()
                .map(item -> Objects.requireNonNull(around.get(item)))
                .toList();
    }

    List<Entry> entries(List<ActivityRow> rows, Viewer viewer) {
        Map<UUID, String> names = names(rows, viewer);
        Blind own = new Blind(viewer);
        return rows.stream()
                .map(row -> entry(row, viewer, names, own))
                .filter(e -> e.visibility() != Visibility.HIDDEN)
                .toList();
    }

    private Map<UUID, String> names(List<ActivityRow> rows, Viewer viewer) {
        Set<UUID> ids = new HashSet<>(Set.of(viewer.personOrNobody()));
        rows.forEach(row -> ids.addAll(List.of(row.owners())));
        return names(ids);
    }

    Map<UUID, String> names(Set<UUID> people) {
        Map<UUID, String> names = new HashMap<>();
        if (!people.isEmpty()) {
            mapper.names(people.toArray(UUID[]::new)).forEach(n -> names.put(n.id(), n.name()));
        }
        return names;
    }

    /** The viewer's own. */
    Set<String> addresses(Viewer viewer) {
        return Set.copyOf(mapper.addresses(viewer.personOrNobody()));
    }

    /** Who has a blind copy is for its sender to know; everybody else may know of their own. */
    private final class Blind {
        private final Viewer viewer;
        private @Nullable Set<String> addresses;

        Blind(Viewer viewer) {
            this.viewer = viewer;
        }

        Item without(Item item, boolean wrote) {
            if (wrote
                    || !(item instanceof MailItem mail)
                    || mail.parties().stream().noneMatch(p -> p.part() == Party.Part.BCC)) {
                return item;
            }
            if (addresses == null) {
                addresses = addresses(viewer);
            }
            return mail.openly(addresses);
        }
    }

    /** Whose it is, as far as all may know; and the viewer themselves, if it came to them unseen. */
    public static List<UUID> whose(UUID[] owners, UUID[] brought, Viewer viewer) {
        Set<UUID> whose = new LinkedHashSet<>(List.of(owners));
        if (List.of(brought).contains(viewer.personOrNobody())) {
            whose.add(viewer.personOrNobody());
        }
        return List.copyOf(whose);
    }

    private static Entry entry(ActivityRow row, Viewer viewer, Map<UUID, String> names, Blind blind) {
        Visibility visibility = Visibility.of(viewer, readers(row.readers()));
        boolean wrote = List.of(row.authors()).contains(viewer.personOrNobody());
        Item item = visibility == Visibility.FULL ? blind.without(Json.item(row.kind(), row.facts()), wrote) : null;
        List<Owner> owners = whose(row.owners(), row.brought(), viewer).stream()
                .map(o -> new Owner(o, names.getOrDefault(o, "")))
                .toList();
        String evidence = row.evidence() == null ? "" : row.evidence().toLowerCase(java.util.Locale.ROOT);
        return new Entry(
                row.id(),
                row.kind(),
                row.at(),
                row.ends(),
                row.allDay(),
                visibility,
                item,
                owners,
                visibility == Visibility.FULL ? Json.trail(row.trail()) : List.of(),
                evidence,
                wrote,
                row.sorted(),
                row.authors().length > 0);
    }

    public static Readers readers(UUID @Nullable [] readers) {
        return readers == null ? Readers.EVERYONE : Readers.only(Set.of(readers));
    }

    /** In what order records are listed. */
    public enum Order {
        /** Those first that begin with what was asked for. */
        NAME,
        /** The latest last touch first. */
        TOUCH,
        /** The nearest meeting first. */
        NEXT,
        /** The most activities first. */
        ACTIVITY;

        String word() {
            return name().toLowerCase(java.util.Locale.ROOT);
        }
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public List<KnownRecord> records(RecordFilter filter, Order order, Instant now, int offset, int limit) {
        return mapper.records(filter, filter.touched(now), order.word(), now, offset, limit);
    }

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public long recordCount(RecordFilter filter, Instant now) {
        return mapper.recordCount(filter, filter.touched(now), now);
    }

    /**
     * How many records of a kind there are by their last touch.
     *
     * @param touched each with its number, 0 too
     * @param nothingNext how many have no meeting ahead
     */
    public record Touches(Map<RecordFilter.Touch, Long> touched, long nothingNext) {}

    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS)
    public Touches touches(String kind, Instant now) {
        // what is as old as a bound belongs to the bucket before it
        List<RecordFilter.Touch> buckets = List.of(
                RecordFilter.Touch.LONGER,
                RecordFilter.Touch.QUARTER,
                RecordFilter.Touch.MONTH,
                RecordFilter.Touch.WEEK,
                RecordFilter.Touch.DAY);
        String[] bounds = buckets.stream()
                .map(t -> t.after(now).plusNanos(1_000).toString())
                .toArray(String[]::new);
        Map<RecordFilter.Touch, Long> touched = new EnumMap<>(RecordFilter.Touch.class);
        for (RecordFilter.Touch touch : RecordFilter.Touch.values()) {
            touched.put(touch, 0L);
        }
        long nothingNext = 0;
        for (TimelineMapper.TouchRow row : mapper.touches(kind, bounds, now)) {
            touched.put(row.touch() == null ? RecordFilter.Touch.NEVER : buckets.get(row.touch() - 1), row.records());
            nothingNext += row.nothingNext();
        }
        return new Touches(touched, nothingNext);
    }

    public boolean isRecord(UUID id) {
        return mapper.isRecord(id);
    }

    public Optional<KnownRecord> record(UUID id, Instant now) {
        return mapper.record(id, now);
    }
}
