package jandrel.store.meetings;

import jandrel.core.item.Content;
import jandrel.core.item.MeetingItem;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Base;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Field;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Positions;
import jandrel.store.capture.SourceRef;
import jandrel.store.connections.Connections;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.StoreException;
import jandrel.store.meetings.ManagedMeetingMapper.Row;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Meetings, calls and follow-ups that were made or changed here. Each stands on timelines like any other item, as something that a
 * source of its owner shows; how each is exchanged with its owner's calendar is {@link MeetingLedger}'s.
 */
@Component
public class ManagedMeetings {

    private static final Instant FROM_EVER = Instant.parse("1980-01-01T00:00:00Z");
    private final ManagedMeetingMapper mapper;
    private final Intake intake;
    private final Positions positions;
    private final ItemKeys keys;
    private final Outbox outbox;
    private final Journal journal;
    private final Clock clock;

    /**
     * @param recurrence names an occurrence of a series; null for what does not recur
     * @param madeHere whether it was made here; else it came from a calendar and was changed here
     * @param out whether it is to stand in its owner's calendar
     * @param details our side; null once it is deleted here
     * @param source where it stands in a calendar, with its href there; null while it does not
     * @param pendingSync whether the two sides have yet to be settled
     * @param trouble why settling did not work; empty when it did
     * @param asks whether its guests are asked to it
     */
    public record ManagedMeeting(
            UUID id,
            UUID item,
            String uid,
            @Nullable Instant recurrence,
            UUID owner,
            boolean madeHere,
            String madeBy,
            boolean out,
            MeetingItem template,
            @Nullable Details details,
            int sequence,
            Instant stamp,
            boolean detached,
            @Nullable Integer source,
            String href,
            boolean pendingSync,
            String trouble,
            boolean asks,
            long version) {
        /** Of guests, by address, as far as they are known. */
        public Map<String, String> guestNames() {
            Map<String, String> names = new TreeMap<>();
            template.parties().stream()
                    .filter(p -> p.part().isGuest() && !p.name().isEmpty())
                    .forEach(p -> names.put(p.address().toString(), p.name()));
            return names;
        }
    }

    /** A record that something is made for, as it is pinned to it. */
    public record About(UUID record, String kind) {}

    ManagedMeetings(
            ManagedMeetingMapper mapper,
            Intake intake,
            Positions positions,
            ItemKeys keys,
            Outbox outbox,
            Journal journal,
            Clock clock) {
        this.mapper = mapper;
        this.intake = intake;
        this.positions = positions;
        this.keys = keys;
        this.outbox = outbox;
        this.journal = journal;
        this.clock = clock;
    }

    /** @param item what it names itself by */
    public Optional<ManagedMeeting> of(UUID item, UUID owner) {
        return mapper.of(item, owner).map(ManagedMeetings::plan);
    }

    /** What stands behind an activity, if it was made or changed here. */
    public Optional<ManagedMeeting> behind(UUID activity) {
        return mapper.ofActivity(activity).map(ManagedMeetings::plan);
    }

    public Optional<ManagedMeeting> one(UUID id) {
        return mapper.one(id).map(ManagedMeetings::plan);
    }

    public List<ManagedMeeting> some(Collection<UUID> ids) {
        return mapper.some(ids.toArray(UUID[]::new)).stream()
                .map(ManagedMeetings::plan)
                .toList();
    }

    /** @param recurrence names an occurrence of a series; null for what does not recur */
    public Optional<ManagedMeeting> of(UUID owner, String uid, @Nullable Instant recurrence) {
        return mapper.named(owner, uid, recurrence).map(ManagedMeetings::plan);
    }

    private static ManagedMeeting plan(Row r) {
        return new ManagedMeeting(
                r.id(),
                r.item(),
                r.uid(),
                r.recurrence(),
                r.owner(),
                r.madeHere(),
                r.madeBy(),
                r.out(),
                (MeetingItem) Json.item("meeting", r.template()),
                r.details() == null ? null : Json.details(r.details()),
                r.sequence(),
                r.stamp(),
                r.detached(),
                r.source(),
                r.href(),
                r.pendingSync(),
                r.trouble(),
                r.asks(),
                r.version());
    }

    /**
     * Makes something.
     *
     * @param template its facts, with a UID that nobody else has
     * @param about the records that it is for
     * @param out whether it goes to the owner's calendar
     * @param asks whether its guests are asked to it
     * @return the item
     */
    @Transactional
    public UUID make(
            UUID owner,
            MeetingItem template,
            Details details,
            List<About> about,
            boolean out,
            boolean asks,
            String by) {
        UUID item = keys.item(template.identity());
        Instant now = now();
        Row row = new Row(
                UUID.randomUUID(),
                item,
                template.uid(),
                null,
                owner,
                true,
                by,
                now,
                out,
                Json.write(template),
                Json.write(details),
                0,
                now,
                now,
                by,
                null,
                null,
                false,
                1,
                null,
                "",
                out,
                "",
                asks);
        mapper.add(row);
        goesOut(row.id());
        if (asks) {
            tellsGuests(row.id());
        }
        about.forEach(a -> mapper.pin(item, owner, a.record(), a.kind(), by));
        show(row.id());
        journal.add(by, "made", thing(row), null, template.sort().word());
        return item;
    }

    /** To its calendar, where it goes to one. */
    private void goesOut(UUID id) {
        Row row = mapper.one(id).orElseThrow();
        if (row.out() && !row.detached()) {
            outbox.add(Kind.CALENDAR, row.owner().toString(), id);
        }
    }

    void tellsGuests(UUID id) {
        outbox.add(Kind.INVITATION, id.toString(), id);
    }

    private Instant now() {
        return clock.instant().truncatedTo(ChronoUnit.SECONDS);
    }

    /** Newer than the last one: of two versions the later counts. */
    private Instant later(Instant stamp) {
        Instant now = now();
        return now.isAfter(stamp) ? now : stamp.plusSeconds(1);
    }

    static Thing thing(Row row) {
        return new Thing("meeting", row.item().toString(), "");
    }

    /**
     * How a calendar of this person shows an item.
     *
     * @param href of its file there
     */
    public record Shown(int source, String href, MeetingItem facts) {}

    public Optional<Shown> shown(UUID item, UUID owner) {
        return mapper.shown(item, owner)
                .map(s -> new Shown(
                        s.source(), s.position().substring(0, s.position().lastIndexOf('#')), (MeetingItem)
                                Json.item("meeting", s.facts())));
    }

    /**
     * What a calendar shows becomes something that can be changed here.
     *
     * @param agreed what its file says of it
     */
    @Transactional
    public ManagedMeeting adopt(UUID item, UUID owner, Shown shown, Details agreed, String by) {
        Instant now = now();
        MeetingItem facts = shown.facts();
        mapper.add(new Row(
                UUID.randomUUID(),
                item,
                facts.uid(),
                facts.recurrence(),
                owner,
                false,
                by,
                now,
                true,
                Json.write(facts),
                Json.write(agreed),
                facts.sequence(),
                Instant.ofEpochMilli(facts.stamp()),
                now,
                by,
                Json.write(new Base<>(agreed, agreed)),
                null,
                false,
                1,
                shown.source(),
                shown.href(),
                false,
                "",
                false));
        // somebody else's hand may have been quicker
        return of(item, owner).orElseThrow();
    }

    /**
     * Changes our side, whatever it is.
     *
     * @param wanted null to delete it
     */
    @Transactional
    public void change(UUID id, @Nullable Details wanted, String by) {
        change(id, was -> wanted, null, by);
    }

    /**
     * Changes our side from what it is, which nobody else changes meanwhile.
     *
     * @param how from what it is, null when it is deleted; what it throws leaves all as it was
     * @param asks whether the guests are asked from now on; null to leave that
     */
    @Transactional
    public void change(UUID id, Function<@Nullable Details, @Nullable Details> how, @Nullable Boolean asks, String by) {
        Row before = mapper.lock(id).orElseThrow(() -> new StoreException("there is no such plan"));
        Details was = before.details() == null ? null : Json.details(before.details());
        Details wanted = how.apply(was);
        if (asks != null) {
            mapper.asks(id, asks);
            if (asks) {
                tellsGuests(id);
            } else {
                outbox.cancel(Kind.INVITATION, List.of(id));
            }
        }
        if (Objects.equals(was, wanted)) {
            return;
        }
        String details = wanted == null ? null : Json.write(wanted);
        mapper.change(id, details, before.sequence() + 1, later(before.stamp()), by);
        goesOut(id);
        if (asks == null ? before.asks() : asks) {
            tellsGuests(id);
        }
        show(id);
        journal.add(by, wanted == null ? "deleted" : "changed", thing(before), null, fields(was, wanted));
    }

    /**
     * A guest answered: no change of the meeting itself, so its guests have nothing to be told.
     *
     * @return whether it is news
     */
    @Transactional
    public boolean answered(UUID id, String guest, Answer answer) {
        Row before = mapper.lock(id).orElseThrow(() -> new StoreException("there is no such plan"));
        Details was = before.details() == null ? null : Json.details(before.details());
        if (was == null || was.answers().get(guest) == answer) {
            return false;
        }
        TreeMap<String, Answer> answers = new TreeMap<>(was.answers());
        answers.put(guest, answer);
        mapper.answered(id, Json.write(was.answered(answers)), later(before.stamp()), now());
        goesOut(id);
        show(id);
        return true;
    }

    /** Which fields, not what they say: the journal is read by those who may not read meetings. */
    private static String fields(@Nullable Details was, @Nullable Details now) {
        if (was == null || now == null) {
            return "";
        }
        List<String> changed = new ArrayList<>();
        for (Field field : Field.values()) {
            if (!field.words(was).equals(field.words(now))) {
                changed.add(field.name().toLowerCase(java.util.Locale.ROOT));
            }
        }
        return String.join(", ", changed);
    }

    /** Puts our side on timelines as it is now. */
    void show(UUID id) {
        ManagedMeeting plan = one(id).orElseThrow();
        SourceRef place = new SourceRef(source(plan.owner()), plan.owner(), FROM_EVER, SourceRef.ANY);
        if (plan.details() == null) {
            positions.forget(place.source(), List.of(position(plan)));
        } else {
            intake.put(place, List.of(seen(plan, plan.details())), List.of(), null);
        }
    }

    private int source(UUID person) {
        return mapper.source(person).orElseGet(() -> {
            mapper.addServer();
            mapper.addConnection(person);
            mapper.addSource(person);
            return mapper.source(person).orElseThrow();
        });
    }

    private static String position(ManagedMeeting plan) {
        return plan.id() + "#";
    }

    private static FetchedItem seen(ManagedMeeting plan, Details details) {
        return new FetchedItem(
                position(plan),
                details.on(plan.template(), plan.sequence(), plan.stamp()),
                () -> new Content(details.text(), "", List.of()));
    }

    /** Everything that this owner's own source shows, to be decided anew where that is wanted. */
    @Transactional
    public void showAgain(UUID owner) {
        int source = source(owner);
        List<String> wanted = positions.toRefetch(source, 500);
        SourceRef place = new SourceRef(source, owner, FROM_EVER, SourceRef.ANY);
        List<FetchedItem> seen = new ArrayList<>();
        for (Row row : mapper.ofOwner(owner)) {
            ManagedMeeting plan = plan(row);
            if (plan.details() != null && wanted.contains(position(plan))) {
                seen.add(seen(plan, plan.details()));
            }
        }
        intake.put(place, seen, List.of(), null);
        positions.cannotRefetch(source, wanted);
    }

    // ---- where it stands ----

    /** @param sequence and stamp as the calendar has them, where those are newer */
    @Transactional
    public void stamped(UUID id, int sequence, Instant stamp) {
        mapper.stamped(id, sequence, stamp);
    }

    @Transactional
    public void stands(UUID id, int source, String href) {
        mapper.stands(id, source, href);
    }

    @Transactional
    public void trouble(UUID id, String trouble) {
        outbox.trouble(Kind.CALENDAR, id, trouble);
    }

    /** What has yet to be settled with the calendars of a connection. */
    public List<UUID> pendingSync(UUID connection, UUID owner, int most) {
        return mapper.pendingSync(connection, owner, most);
    }

    /** What stands at these hrefs of a calendar. */
    public List<UUID> at(int source, Collection<String> hrefs) {
        return hrefs.isEmpty() ? List.of() : mapper.at(source, hrefs.toArray(String[]::new));
    }

    public List<UUID> allAt(int source) {
        return mapper.allAt(source);
    }

    /** The names of contacts and people by their addresses. */
    public Map<String, String> namesOf(Collection<String> addresses) {
        Map<String, String> names = new TreeMap<>();
        mapper.names(addresses.toArray(String[]::new)).forEach(n -> names.putIfAbsent(n.address(), n.name()));
        return names;
    }

    /** The name of the account that an item is about; empty for none. */
    public String accountOf(ManagedMeeting plan) {
        return mapper.accountOf(plan.item(), plan.owner()).orElse("");
    }

    /** The names of a plan's guests, as far as they are known. */
    public String guestsOf(ManagedMeeting plan) {
        return String.join(", ", new LinkedHashSet<>(plan.guestNames().values()));
    }

    /** The calendar that what this person makes goes to. */
    public Optional<Connections.Source> outgoing(UUID person) {
        return mapper.outgoing(person);
    }

    /** What this person made here before, that lies ahead and stands in no calendar. */
    public List<ManagedMeeting> notOut(UUID owner) {
        return mapper.notOut(owner, clock.instant()).stream()
                .map(ManagedMeetings::plan)
                .toList();
    }

    @Transactional
    public void sendOut(Collection<UUID> ids, String by) {
        if (!ids.isEmpty()) {
            mapper.sendOut(ids.toArray(UUID[]::new));
            ids.forEach(this::goesOut);
            journal.add(by, "sent out", new Thing("meeting", "", ""), null, ids.size() + " meetings");
        }
    }
}
