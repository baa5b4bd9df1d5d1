package jandrel.store.measures;

import jandrel.core.measures.ContactHour;
import jandrel.core.measures.ContactHour.Account;
import jandrel.core.measures.ContactHour.One;
import jandrel.core.measures.ContactHour.What;
import jandrel.core.timeline.Standing;
import jandrel.core.visibility.FaceChoice;
import jandrel.store.timeline.Timelines;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import org.apache.ibatis.annotations.Arg;
import org.apache.ibatis.annotations.Mapper;
import org.apache.ibatis.annotations.Options;
import org.apache.ibatis.annotations.Param;
import org.apache.ibatis.annotations.ResultType;
import org.apache.ibatis.annotations.Select;
import org.apache.ibatis.session.ResultHandler;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;

/**
 * Mail and meetings of the hours that somebody asked about, in memory; see {@link SnapshotKeeper}. An hour is read when it is asked for, and
 * anew once something of it changed. Each node keeps its own.
 */
@Component
class ContactKeeper implements SnapshotKeeper.Reading<ContactKeeper.Kept, String> {
    /** Of more hours than these, to read each when it is asked for costs less. */
    private static final int MOST_CHANGES = 20_000;

    /** Read at a time: what belongs together is put together by the database in its own memory. */
    private static final int HOURS_AT_A_TIME = 7 * 24;

    /** Above what hours that nobody asked about for longest are forgotten: a share of what the service may take. */
    private static final long MOST = Math.max(200_000, Runtime.getRuntime().maxMemory() / 6 / ContactHour.BYTES);

    /** As {@code hour_key} says it: so that there is none below zero. */
    private static final long FIRST_HOUR = -100_000_000;

    private static final String ALWAYS = "";

    private final Mapped mapper;
    private final SnapshotKeeper<Kept, String> kept;

    @Mapper
    interface Mapped {
        /** @param mine null where there is but one face */
        record Row(
                UUID activity,
                boolean mail,
                Instant at,
                @Nullable Instant ends,
                UUID @Nullable [] readers,
                int face,
                UUID @Nullable [] mine,
                UUID @Nullable [] elsewhere,
                UUID @Nullable [] rivals,
                @Nullable UUID owner,
                boolean written,
                boolean cancelled,
                boolean declined,
                boolean missed,
                String outcome,
                UUID @Nullable [] accounts,
                @Nullable UUID other) {}

        /** Told column by column: to have them found by their names costs more for each row than to read it. */
        @Arg(column = "activity", javaType = UUID.class)
        @Arg(column = "mail", javaType = boolean.class)
        @Arg(column = "at", javaType = Instant.class)
        @Arg(column = "ends", javaType = Instant.class)
        @Arg(column = "readers", javaType = UUID[].class)
        @Arg(column = "face", javaType = int.class)
        @Arg(column = "mine", javaType = UUID[].class)
        @Arg(column = "elsewhere", javaType = UUID[].class)
        @Arg(column = "rivals", javaType = UUID[].class)
        @Arg(column = "owner", javaType = UUID.class)
        @Arg(column = "written", javaType = boolean.class)
        @Arg(column = "cancelled", javaType = boolean.class)
        @Arg(column = "declined", javaType = boolean.class)
        @Arg(column = "missed", javaType = boolean.class)
        @Arg(column = "outcome", javaType = String.class)
        @Arg(column = "accounts", javaType = UUID[].class)
        @Arg(column = "other", javaType = UUID.class)
        @ResultType(Row.class)
        @Options(fetchSize = SellingMapper.AT_A_TIME)
        @Select("""
                SELECT a.id AS activity, a.kind = 'mail' AS mail, a.at, CASE WHEN a.kind = 'meeting' THEN a.ends END AS ends, a.readers, a.face,
                CASE WHEN a.faces > 1 THEN a.mine END AS mine, CASE WHEN a.faces > 1 THEN a.elsewhere END AS elsewhere,
                CASE WHEN a.faces > 1 THEN a.rivals END AS rivals, coalesce(a.authors[1], a.owners[1]) AS owner, a.authors <> '{}' AS written,
                """ + SellingMapper.STANDS + """
                , l.accounts, l.other FROM activity a LEFT JOIN LATERAL (
                    SELECT array_agg(record ORDER BY record) FILTER (WHERE kind = 'account' AND evidence <> 'PART') AS accounts,
                        (min(record::text))::uuid AS other
                    FROM link WHERE activity = a.id AND NOT blind) l ON true
                WHERE a.at >= #{from} AND a.at < #{until} AND
                """ + SellingMapper.NO_FOLLOW_UP)
        void contacted(@Param("from") Instant from, @Param("until") Instant until, ResultHandler<Row> each);
    }

    ContactKeeper(Mapped mapper, ChangeMapper changes, PlatformTransactionManager transactions) {
        this.mapper = mapper;
        kept = new SnapshotKeeper<>(changes, transactions, MOST_CHANGES, "hour");
    }

    /**
     * All that was committed before this was asked, of all hours that have a part of this time.
     *
     * @param then what is read besides, at the same moment
     */
    <R> R current(Instant from, Instant until, Function<List<ContactHour>, R> then) {
        long first = hour(from);
        long end = hour(until.minusNanos(1)) + 1;
        return kept.current(() -> ALWAYS, this, (all, as) -> then.apply(all.hours(first, end, mapper)));
    }

    private static long hour(Instant at) {
        return Math.floorDiv(at.getEpochSecond(), Duration.ofHours(1).toSeconds());
    }

    @Override
    public Kept all(String as) {
        return new Kept();
    }

    @Override
    public Kept changed(Kept before, String as, Function<String, Set<UUID>> changed) {
        changed.apply("hour").forEach(id -> before.forget(id.getLeastSignificantBits() + FIRST_HOUR));
        return before;
    }

    /** Used by one at a time, whose turn it is. What is in it is never newer than the moment up to which it will be looked for changes. */
    static final class Kept {
        /** The one asked for last at the end. */
        private final Map<Long, ContactHour> hours = new LinkedHashMap<>(16, 0.75f, true);

        private final Map<UUID, Account> accounts = new HashMap<>();
        private final Map<Object, Object> once = new HashMap<>();
        private long size;

        void forget(long hour) {
            ContactHour was = hours.remove(hour);
            size -= was == null ? 0 : weight(was);
        }

        List<ContactHour> hours(long first, long end, Mapped mapper) {
            List<ContactHour> asked = new ArrayList<>();
            for (long from = first; from < end; ) {
                ContactHour known = hours.get(from);
                if (known != null) {
                    asked.add(known);
                    from++;
                    continue;
                }
                long until = from + 1;
                while (until < end && until - from < HOURS_AT_A_TIME && !hours.containsKey(until)) {
                    until++;
                }
                asked.addAll(read(from, until, mapper));
                from = until;
            }
            forgetMore();
            return asked;
        }

        private List<ContactHour> read(long from, long until, Mapped mapper) {
            List<List<One>> read = new ArrayList<>();
            for (long hour = from; hour < until; hour++) {
                read.add(new ArrayList<>());
            }
            mapper.contacted(start(from), start(until), r -> {
                One one = one(r.getResultObject());
                read.get((int) (hour(one.at()) - from)).add(one);
            });
            List<ContactHour> done = new ArrayList<>();
            for (List<One> all : read) {
                ContactHour hour = all.isEmpty() ? ContactHour.EMPTY : new ContactHour(all);
                hours.put(from + done.size(), hour);
                size += weight(hour);
                done.add(hour);
            }
            return done;
        }

        private static Instant start(long hour) {
            return Instant.EPOCH.plus(Duration.ofHours(hour));
        }

        /** One without anything takes its place, too. */
        private static long weight(ContactHour hour) {
            return 2L + hour.size();
        }

        private void forgetMore() {
            Iterator<ContactHour> oldest = hours.values().iterator();
            while (size > MOST && oldest.hasNext()) {
                size -= weight(oldest.next());
                oldest.remove();
            }
            if (hours.isEmpty() || accounts.size() > MOST || once.size() > MOST) {
                // what hours share goes with all of them: no number may stand for two
                hours.clear();
                accounts.clear();
                once.clear();
                size = 0;
            }
        }

        private One one(Mapped.Row row) {
            List<Account> itsAccounts = row.accounts() == null
                    ? List.of()
                    : once(Arrays.stream(row.accounts())
                            .map(id -> accounts.computeIfAbsent(id, k -> new Account(accounts.size(), k)))
                            .toList());
            UUID other = row.other();
            Instant ends = row.ends() == null ? row.at() : row.ends();
            return new One(
                    row.activity(),
                    row.at(),
                    ends,
                    what(row, ends, ends.minusSeconds(1)),
                    what(row, ends, ends),
                    once(Timelines.readers(row.readers())),
                    face(row),
                    row.owner() == null ? null : once(row.owner()),
                    itsAccounts,
                    itsAccounts.isEmpty()
                            ? other == null ? row.activity() : once(other)
                            : itsAccounts.get(0).id());
        }

        @SuppressWarnings("unchecked") // equal values are of one type
        private <T> T once(T value) {
            Object known = once.putIfAbsent(value, value);
            return known == null ? value : (T) known;
        }

        private static @Nullable FaceChoice face(Mapped.Row row) {
            UUID[] mine = row.mine();
            UUID[] elsewhere = row.elsewhere();
            return mine == null || elsewhere == null
                    ? null
                    : new FaceChoice(
                            row.face(),
                            Set.copyOf(Arrays.asList(mine)),
                            Set.copyOf(Arrays.asList(elsewhere)),
                            Timelines.readers(row.rivals()));
        }

        private static What what(Mapped.Row row, Instant ends, Instant now) {
            if (row.mail()) {
                return row.written() ? What.MAIL_OUT : What.MAIL_IN;
            }
            Standing standing = Standing.of(row.cancelled(), ends, row.declined(), row.missed(), row.outcome(), now);
            return standing == Standing.HELD ? What.HELD : standing == Standing.MISSED ? What.MISSED : What.OTHER;
        }
    }
}
