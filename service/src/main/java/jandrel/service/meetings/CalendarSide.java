package jandrel.service.meetings;

import jandrel.core.policy.Keeping;
import jandrel.core.policy.Titles;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Exchange;
import jandrel.core.reconcile.Field;
import jandrel.formats.calendar.MeetingFile;
import jandrel.formats.calendar.MeetingFile.State;
import jandrel.formats.calendar.UnreadableCalendar;
import jandrel.formats.calendar.WriteOptions;
import jandrel.sources.CalendarServer;
import jandrel.sources.DavObject;
import jandrel.sources.SourceTrouble;
import jandrel.store.capture.CursorConflict;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Source;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.people.People;
import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** The other side of an exchange: one person's calendars at their server. For one look, by one thread. */
final class CalendarSide implements Exchange.Remote<UUID, Details> {
    private final UUID connection;
    private final CalendarServer server;
    private final ManagedMeetings plans;
    private final Connections connections;
    private final People.Person owner;
    private final Keeping keeping;
    private final boolean writes;
    private final Map<UUID, DavObject> read = new HashMap<>();
    private final Map<UUID, DavObject> ahead = new HashMap<>();

    /** @param writes whether the owner's policy lets anything out */
    CalendarSide(
            UUID connection,
            CalendarServer server,
            ManagedMeetings plans,
            Connections connections,
            People.Person owner,
            Keeping keeping,
            boolean writes) {
        this.connection = connection;
        this.server = server;
        this.plans = plans;
        this.connections = connections;
        this.owner = owner;
        this.keeping = keeping;
        this.writes = writes;
    }

    /**
     * Reads the files of some that stand in this connection's calendars, in one request for each calendar, for the first time that each is
     * asked for. What changes there meanwhile is not written over, as its tag is another then, and is in the next listing.
     */
    void ahead(Collection<UUID> ids) {
        ahead.clear();
        Map<Integer, List<ManagedMeeting>> standing = plans.some(ids).stream()
                .filter(p -> p.source() != null)
                .collect(Collectors.groupingBy(p -> Objects.requireNonNull(p.source())));
        standing.forEach((id, there) -> connections
                .source(id)
                .filter(s -> s.connection().equals(connection))
                .ifPresent(s -> readAhead(s, there)));
    }

    private void readAhead(Source source, List<ManagedMeeting> there) {
        try {
            Map<String, DavObject> objects = new HashMap<>();
            server.objects(
                            source.name(),
                            there.stream().map(ManagedMeeting::href).distinct().toList())
                    .forEach(o -> objects.put(o.href(), o));
            // that one is gone is believed only of a request for it alone
            there.stream()
                    .filter(p -> objects.containsKey(p.href()))
                    .forEach(p -> ahead.put(p.id(), Objects.requireNonNull(objects.get(p.href()))));
        } catch (SourceTrouble trouble) {
            if (trouble.kind() != SourceTrouble.Kind.FORBIDDEN) {
                throw trouble;
            }
            // each says for itself then why it cannot be settled
        }
    }

    private Optional<DavObject> object(ManagedMeeting plan, Source source) {
        return Optional.ofNullable(ahead.remove(plan.id()))
                .or(() -> server.objects(source.name(), List.of(plan.href())).stream()
                        .findFirst());
    }

    @Override
    public Exchange.Found<Details> find(UUID id) {
        ManagedMeeting plan = placed(plans.one(id).orElseThrow());
        Optional<DavObject> object = object(plan, source(plan));
        read.remove(id);
        if (object.isEmpty()) {
            return new Exchange.Found<>(null, null, "", Instant.EPOCH);
        }
        read.put(id, object.get());
        Optional<State> state = state(plan, object.get());
        state.filter(s -> s.sequence() > plan.sequence())
                .ifPresent(s -> plans.stamped(id, s.sequence(), Instant.ofEpochMilli(s.stamp())));
        return state.map(s -> new Exchange.Found<>(
                        told(plan, s.details()), object.get().tag(), s.mark(), s.changedAt()))
                .orElseGet(() -> new Exchange.Found<>(null, object.get().tag(), "", Instant.EPOCH));
    }

    private static Optional<State> state(ManagedMeeting plan, DavObject object) {
        try {
            return MeetingFile.read(object.bytes()).state(plan.uid(), plan.recurrence());
        } catch (UnreadableCalendar broken) {
            throw unreadable(broken);
        }
    }

    private static SourceTrouble unreadable(UnreadableCalendar broken) {
        return new SourceTrouble(
                SourceTrouble.Kind.FORBIDDEN, "the calendar’s file cannot be read: " + broken.getMessage());
    }

    /** Its place is noted before anything is written there: an answer may be lost. */
    private ManagedMeeting placed(ManagedMeeting plan) {
        if (plan.source() != null) {
            return plan;
        }
        Source source = plans.outgoing(plan.owner())
                .orElseThrow(() ->
                        new SourceTrouble(SourceTrouble.Kind.FORBIDDEN, "there is no calendar that it could go to"));
        if (!source.connection().equals(connection)) {
            throw CursorConflict.byChange();
        }
        String folder = source.name().endsWith("/") ? source.name() : source.name() + "/";
        plans.stands(plan.id(), source.id(), folder + plan.id() + ".ics");
        return plans.one(plan.id()).orElseThrow();
    }

    private Source source(ManagedMeeting plan) {
        Source source = Optional.ofNullable(plan.source())
                .flatMap(connections::source)
                .orElseThrow(
                        () -> new SourceTrouble(SourceTrouble.Kind.FORBIDDEN, "the calendar it stood in has gone"));
        if (!source.connection().equals(connection)) {
            // a path at one server means nothing, or something else, at another
            throw CursorConflict.byChange();
        }
        return source;
    }

    /** The calendar's title without what we put around it, and our reminder where the calendar's is not ours to set. */
    private Details told(ManagedMeeting plan, Details there) {
        Details told = there;
        if (plan.madeHere()) {
            told = told.titled(titles(plan).in(there.title()));
        }
        Details here = plan.details();
        return keeping.rings() || here == null ? told : Field.REMINDER.put(told, here);
    }

    private Titles titles(ManagedMeeting plan) {
        return Titles.of(keeping.title(), plans.accountOf(plan), plans.guestsOf(plan));
    }

    @Override
    public boolean write(UUID id, @Nullable Details details, @Nullable String tag, String mark) {
        if (!writes) {
            throw new SourceTrouble(SourceTrouble.Kind.FORBIDDEN, "the policy lets nothing out to calendars");
        }
        ManagedMeeting plan = plans.one(id).orElseThrow();
        DavObject object = read.get(id);
        try {
            MeetingFile file = object == null ? MeetingFile.fresh() : MeetingFile.read(object.bytes());
            if (details == null) {
                boolean left = file.remove(plan.uid(), plan.recurrence());
                return tag == null
                        || (left ? server.put(plan.href(), file.bytes(), tag) : server.delete(plan.href(), tag));
            }
            Details shown = plan.madeHere() ? details.titled(titles(plan).out(details.title())) : details;
            file.put(plan.uid(), plan.recurrence(), shown, writing(plan, object, shown, mark));
            return server.put(plan.href(), file.bytes(), tag);
        } catch (UnreadableCalendar broken) {
            throw unreadable(broken);
        }
    }

    private WriteOptions writing(ManagedMeeting plan, @Nullable DavObject object, Details shown, String mark) {
        Optional<State> there = object == null ? Optional.empty() : state(plan, object);
        // what guests answer is no revision of the meeting (RFC 5546 §2.1.4)
        boolean answersAlone = there.map(State::details)
                .filter(d -> d.answered(shown.answers()).equals(shown))
                .isPresent();
        int next = there.map(State::sequence).orElse(-1) + (answersAlone ? 0 : 1);
        int sequence = Math.max(plan.sequence(), next);
        if (sequence != plan.sequence()) {
            plans.stamped(plan.id(), sequence, plan.stamp());
        }
        return new WriteOptions(
                sequence,
                plan.stamp(),
                owner.writesAs(),
                owner.name(),
                mark,
                plan.template().sort().word(),
                keeping.rings(),
                plan.asks(),
                plan.guestNames());
    }
}
