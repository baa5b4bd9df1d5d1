package jandrel.store.meetings;

import jandrel.core.reconcile.Base;
import jandrel.core.reconcile.Conflict;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Exchange;
import jandrel.core.reconcile.Field;
import jandrel.core.reconcile.Side;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Json;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.StoreException;
import jandrel.store.meetings.ManagedMeetingMapper.Row;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Our side of the exchange of plans with their owners' calendars, and what either side lost in it. */
@Component
public class MeetingLedger implements Exchange.Ledger<UUID, Details> {
    private final ManagedMeetingMapper mapper;
    private final ManagedMeetings plans;
    private final Outbox outbox;
    private final Journal journal;

    /** @param field null where one side deleted what the other changed */
    public record Kept(
            UUID id,
            UUID plan,
            Instant at,
            @Nullable Field field,
            boolean hereWon,
            String here,
            String calendar,
            boolean canComeBack,
            @Nullable String broughtBackBy) {}

    MeetingLedger(ManagedMeetingMapper mapper, ManagedMeetings plans, Outbox outbox, Journal journal) {
        this.mapper = mapper;
        this.plans = plans;
        this.outbox = outbox;
        this.journal = journal;
    }

    @Override
    public Exchange.Entry<Details> read(UUID id) {
        Row r = mapper.one(id).orElseThrow(() -> new StoreException("there is no such plan"));
        return new Exchange.Entry<>(
                new Side<>(r.details() == null ? null : Json.details(r.details()), r.changedAt()),
                r.base() == null ? null : Json.base(r.base()),
                r.sending() == null ? null : Json.sending(r.sending()),
                r.detached(),
                r.version());
    }

    @Override
    @Transactional
    public void note(UUID id, List<Conflict<Details>> conflicts) {
        // the same while an exchange is tried again; after another change it is another conflict, whatever the values
        // are
        String version = String.valueOf(mapper.one(id).map(Row::version).orElse(0L));
        for (Conflict<Details> c : conflicts) {
            String field = c.field() == null ? null : c.field().name();
            UUID conflict = UUID.nameUUIDFromBytes(
                    String.join("\n", id.toString(), version, String.valueOf(field), c.here(), c.there())
                            .getBytes(StandardCharsets.UTF_8));
            String lost = c.lost() == null ? null : Json.write(c.lost());
            if (mapper.conflict(conflict, id, field, c.hereWon(), c.here(), c.there(), lost) > 0) {
                Row row = mapper.one(id).orElseThrow();
                journal.add(
                        "service",
                        "settled a conflict",
                        ManagedMeetings.thing(row),
                        null,
                        new TreeMap<>(Map.of(
                                "conflict", conflict.toString(),
                                "field", field == null ? "deleted" : field.toLowerCase(Locale.ROOT),
                                "stands", c.hereWon() ? "here" : "calendar")));
            }
        }
    }

    @Override
    @Transactional
    public void sending(
            UUID id,
            @Nullable Base<Details> base,
            Exchange.@Nullable Sending<Details> sending,
            List<Conflict<Details>> conflicts) {
        note(id, conflicts);
        mapper.sending(id, base == null ? null : Json.write(base), sending == null ? null : Json.write(sending));
    }

    @Override
    @Transactional
    public boolean agree(UUID id, long version, @Nullable Details here, @Nullable Details agreed, boolean detached) {
        Row row = mapper.one(id).orElseThrow();
        String before = row.details();
        String base = agreed == null ? null : Json.write(new Base<>(agreed, agreed));
        String now = here == null ? null : Json.write(here);
        if (mapper.agree(id, version, now, base, detached) == 0) {
            return false;
        }
        outbox.cancel(Kind.CALENDAR, List.of(id));
        if (!Objects.equals(before, now)) {
            if (row.asks()) {
                plans.tellsGuests(id);
            }
            plans.show(id);
        }
        return true;
    }

    /**
     * The latest first.
     *
     * @param plan null for those of all
     */
    public List<Kept> conflicts(@Nullable UUID plan, int most) {
        return mapper.conflicts(plan, most).stream().map(MeetingLedger::kept).toList();
    }

    private static Kept kept(ManagedMeetingMapper.ConflictRow r) {
        return new Kept(
                r.id(),
                r.meeting(),
                r.at(),
                r.field() == null ? null : Field.valueOf(r.field()),
                r.hereWon(),
                r.here(),
                r.calendar(),
                r.lost() != null && r.broughtBackAt() == null,
                r.broughtBackBy());
    }

    public Optional<Kept> conflict(UUID id) {
        return mapper.aConflict(id).map(MeetingLedger::kept);
    }

    /**
     * Makes what lost stand.
     *
     * @return false when there is nothing to bring back
     */
    @Transactional
    public boolean bringBack(UUID id, String by) {
        ManagedMeetingMapper.ConflictRow conflict = mapper.aConflict(id).orElse(null);
        if (conflict == null || conflict.lost() == null || mapper.broughtBack(id, by) == 0) {
            return false;
        }
        Row row = mapper.lock(conflict.meeting()).orElseThrow();
        Details lost = Json.details(conflict.lost());
        Details now = row.details() == null ? null : Json.details(row.details());
        Details wanted = conflict.field() == null || now == null
                ? lost
                : Field.valueOf(conflict.field()).put(now, lost);
        plans.change(row.id(), wanted, by);
        return true;
    }
}
