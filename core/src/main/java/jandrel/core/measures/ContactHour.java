package jandrel.core.measures;

import jandrel.core.visibility.FaceChoice;
import jandrel.core.visibility.Readers;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Mail and meetings of one hour, column by column: figures go through all of a year's with every question, and objects would take
 * several times the memory. Never changed itself.
 */
public final class ContactHour {
    /** What one of them takes in memory, about. */
    public static final int BYTES = 64;

    /** In place of a number where there is not exactly one account. */
    static final int SEVERAL = -1;

    public static final ContactHour EMPTY = new ContactHour(List.of());

    private final long[] ids;
    private final long[] at;
    private final long[] ends;
    private final What[] before;
    private final What[] after;
    private final Readers[] readers;
    private final @Nullable UUID[] owners;
    private final List<List<Account>> accounts;
    /** The number of the only account of each, so that most need not be looked at themselves. */
    private final int[] only;

    private final UUID[] records;
    /** Null where none of them has several copies that differ. */
    private final @Nullable FaceChoice @Nullable [] faces;

    /** What it was. */
    public enum What {
        MAIL_IN,
        MAIL_OUT,
        HELD,
        MISSED,
        /** A meeting that is to come, was cancelled or declined. */
        OTHER
    }

    /** @param number from 0 on, another for each account */
    public record Account(int number, UUID id) {}

    /**
     * A message, or a meeting.
     *
     * @param ends when it becomes what it is once it has ended
     * @param before what it is until then
     * @param face which of several copies that say different things; null where there is but one
     * @param owner who wrote it, or the first of ours who has it
     * @param accounts on whose timelines it stands, accounts above them aside
     * @param record one on whose timeline it stands, an account if there is any
     */
    public record One(
            UUID activity,
            Instant at,
            Instant ends,
            What before,
            What after,
            Readers readers,
            @Nullable FaceChoice face,
            @Nullable UUID owner,
            List<Account> accounts,
            UUID record) {}

    public ContactHour(List<One> all) {
        int n = all.size();
        ids = new long[2 * n];
        at = new long[n];
        ends = new long[n];
        before = new What[n];
        after = new What[n];
        readers = new Readers[n];
        owners = new UUID[n];
        records = new UUID[n];
        accounts = all.stream().map(One::accounts).toList();
        only = accounts.stream()
                .mapToInt(some -> some.size() == 1 ? some.get(0).number() : SEVERAL)
                .toArray();
        @Nullable FaceChoice[] several = new FaceChoice[n];
        for (int i = 0; i < n; i++) {
            One one = all.get(i);
            ids[2 * i] = one.activity().getMostSignificantBits();
            ids[2 * i + 1] = one.activity().getLeastSignificantBits();
            at[i] = micros(one.at());
            ends[i] = micros(one.ends());
            before[i] = one.before();
            after[i] = one.after();
            readers[i] = one.readers();
            owners[i] = one.owner();
            records[i] = one.record();
            several[i] = one.face();
        }
        faces = Arrays.stream(several).allMatch(f -> f == null) ? null : several;
    }

    /** As PostgreSQL keeps moments. */
    static long micros(Instant moment) {
        return Math.addExact(Math.multiplyExact(moment.getEpochSecond(), 1_000_000L), moment.getNano() / 1_000);
    }

    public int size() {
        return at.length;
    }

    UUID activity(int i) {
        return new UUID(ids[2 * i], ids[2 * i + 1]);
    }

    /** In microseconds since 1970. */
    long at(int i) {
        return at[i];
    }

    /** Whether a viewer gets this one of the copies that there are. */
    boolean isFor(int i, Set<UUID> viewer) {
        FaceChoice face = faces == null ? null : faces[i];
        return face == null || face.isFor(viewer, readers[i]);
    }

    Readers readers(int i) {
        return readers[i];
    }

    boolean isMail(int i) {
        return after[i] == What.MAIL_IN || after[i] == What.MAIL_OUT;
    }

    /** @param now in microseconds since 1970 */
    What what(int i, long now) {
        return ends[i] > now ? before[i] : after[i];
    }

    @Nullable
    UUID owner(int i) {
        return owners[i];
    }

    List<Account> accounts(int i) {
        return accounts.get(i);
    }

    /** Writes down of each the number of its account if it has exactly one, else {@link #SEVERAL}. */
    void onlyAccounts(int[] into, int from) {
        System.arraycopy(only, 0, into, from, only.length);
    }

    UUID record(int i) {
        return records[i];
    }
}
