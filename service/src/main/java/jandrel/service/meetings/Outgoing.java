package jandrel.service.meetings;

import jandrel.core.policy.Policy;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Exchange;
import jandrel.core.reconcile.Field;
import jandrel.core.reconcile.Preference;
import jandrel.formats.calendar.MeetingFile;
import jandrel.formats.calendar.MeetingFile.State;
import jandrel.formats.calendar.UnreadableCalendar;
import jandrel.service.connections.Servers;
import jandrel.service.connections.SyncScheduler;
import jandrel.sources.CalendarServer;
import jandrel.sources.SourceTrouble;
import jandrel.store.capture.CursorConflict;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Server;
import jandrel.store.connections.Connections.Source;
import jandrel.store.meetings.ManagedMeetings;
import jandrel.store.meetings.ManagedMeetings.ManagedMeeting;
import jandrel.store.meetings.ManagedMeetings.Shown;
import jandrel.store.meetings.MeetingLedger;
import jandrel.store.people.People;
import jandrel.store.policy.Policies;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/** Keeps what was made or changed here in step with its owner's calendar. */
@Component
public class Outgoing {
    private static final Logger LOG = LoggerFactory.getLogger(Outgoing.class);
    private static final int MOST = 500;
    private static final int AHEAD = 50;
    private final ManagedMeetings plans;
    private final MeetingLedger ledger;
    private final Connections connections;
    private final People people;
    private final Policies policies;
    private final Servers servers;
    private final SyncScheduler looks;

    Outgoing(
            ManagedMeetings plans,
            MeetingLedger ledger,
            Connections connections,
            People people,
            Policies policies,
            Servers servers,
            SyncScheduler looks) {
        this.ledger = ledger;
        this.plans = plans;
        this.connections = connections;
        this.people = people;
        this.policies = policies;
        this.servers = servers;
        this.looks = looks;
    }

    /** Settles what waits in the outbox for the calendars of one connection. */
    List<Settled> pending(CalendarServer server, Connection connection) {
        return reaches(connection.person())
                ? settle(server, connection, plans.pendingSync(connection.id(), connection.person(), MOST))
                : List.of();
    }

    /** What changed at these places of a calendar. */
    List<Settled> changed(CalendarServer server, Connection connection, Source source, Collection<String> hrefs) {
        return settle(server, connection, plans.at(source.id(), hrefs));
    }

    /**
     * How settling one plan went.
     *
     * @param source where it stands
     * @param outcome null where the calendar does not let it in
     */
    record Settled(UUID plan, @Nullable Integer source, Exchange.@Nullable Outcome outcome) {}

    List<Settled> settle(CalendarServer server, Connection connection, List<UUID> ids) {
        List<Settled> settled = new ArrayList<>();
        Optional<Policy> policy = policies.of(connection.person());
        Optional<People.Person> owner = people.one(connection.person());
        if (ids.isEmpty() || policy.isEmpty() || owner.isEmpty()) {
            return settled;
        }
        boolean writes = policy.get().scope().meetings().goesOut();
        CalendarSide side = new CalendarSide(
                connection.id(),
                server,
                plans,
                connections,
                owner.get(),
                policy.get().keeping(),
                writes);
        Exchange<UUID, Details> exchange = new Exchange<>(Field.MEETING, ledger, side);
        Preference preference = policy.get()
                .keeping()
                .preference(
                        policy.get().handling().deleted(), policy.get().scope().meetings());
        for (int n = 0; n < ids.size(); n++) {
            UUID id = ids.get(n);
            if (n % AHEAD == 0) {
                side.ahead(ids.subList(n, Math.min(ids.size(), n + AHEAD)));
            }
            // nothing goes out any more from the moment that somebody puts it to rest
            Connection now = connections.connection(connection.id()).orElseThrow(CursorConflict::byRest);
            if (now.isAtRest()) {
                throw CursorConflict.byRest();
            }
            if (now.generation() != connection.generation()) {
                throw CursorConflict.byChange();
            }
            try {
                Exchange.Outcome outcome = exchange.settle(id, preference);
                settled.add(new Settled(id, placed(id), outcome));
            } catch (SourceTrouble trouble) {
                LOG.warn("plan {}: {}", id, trouble.getMessage());
                plans.trouble(id, String.valueOf(trouble.getMessage()));
                if (trouble.kind() != SourceTrouble.Kind.FORBIDDEN) {
                    throw trouble;
                }
                settled.add(new Settled(id, placed(id), null));
            }
        }
        return settled;
    }

    private @Nullable Integer placed(UUID plan) {
        return plans.one(plan).map(ManagedMeeting::source).orElse(null);
    }

    /**
     * Makes what a person's calendar shows something that can be changed here: its file is read as it is now.
     *
     * @return nothing when the calendar does not show it (any more)
     * @throws SourceTrouble if the calendar cannot be asked
     */
    public Optional<ManagedMeeting> adopt(UUID item, UUID owner, String by) {
        Optional<ManagedMeeting> known = plans.of(item, owner);
        if (known.isPresent()) {
            return known;
        }
        Optional<Shown> shown = plans.shown(item, owner);
        Optional<Source> source = shown.flatMap(s -> connections.source(s.source()));
        Optional<Connection> connection = source.flatMap(s -> connections.connection(s.connection()));
        Optional<Server> server = connection.flatMap(c -> connections.server(c.server()));
        if (server.isEmpty()) {
            return Optional.empty();
        }
        try (CalendarServer calendars = servers.calendars(connection.orElseThrow(), server.get())) {
            return calendars
                    .objects(
                            source.orElseThrow().name(),
                            List.of(shown.orElseThrow().href()))
                    .stream()
                    .findFirst()
                    .flatMap(object -> state(object.bytes(), shown.get()))
                    .map(state -> plans.adopt(item, owner, shown.get(), state.details(), by));
        }
    }

    private static Optional<State> state(byte[] bytes, Shown shown) {
        try {
            return MeetingFile.read(bytes)
                    .state(shown.facts().uid(), shown.facts().recurrence());
        } catch (UnreadableCalendar broken) {
            return Optional.empty();
        }
    }

    /** Whether this person's policy lets this kind out to calendars. */
    public boolean sends(UUID person, Policy.OutwardKind kind) {
        return policies.of(person).map(p -> p.sends(kind)).orElse(false);
    }

    /** Whether this person's policy has guests asked where their maker says nothing of it. */
    public boolean asks(UUID person) {
        return policies.of(person).map(p -> p.keeping().asks()).orElse(false);
    }

    /** Whether what is changed here reaches this person's calendar at all. */
    public boolean reaches(UUID person) {
        return policies.of(person).map(p -> p.scope().meetings().goesOut()).orElse(false);
    }

    /** Looks at once where this plan stands, or is to go. */
    public void soon(ManagedMeeting plan) {
        calendarOf(plan).ifPresent(s -> looks.now(s.connection()));
    }

    /** The calendar where it stands, else the one it is to go to; nothing when it goes to none. */
    public Optional<Source> calendarOf(ManagedMeeting plan) {
        return Optional.ofNullable(plan.source())
                .flatMap(connections::source)
                .or(() -> plan.out() ? plans.outgoing(plan.owner()) : Optional.empty());
    }

    /**
     * Makes a calendar for what is made here, and lets it go there from now on.
     *
     * @throws SourceTrouble if the server does not
     */
    public void calendarFor(UUID connectionId, String name) {
        Connection connection = connections.connection(connectionId).orElseThrow();
        Server server = connections.server(connection.server()).orElseThrow();
        try (CalendarServer calendars = servers.calendars(connection, server)) {
            String href = calendars.make(name);
            connections.addSource(connectionId, "calendar", href, name);
            connections.sources(connectionId).stream()
                    .filter(s -> s.name().equals(href))
                    .findFirst()
                    .ifPresent(s -> {
                        connections.notOutgoing(connectionId);
                        connections.outgoing(s.id());
                    });
        }
    }
}
