package jandrel.core.reconcile;

import jandrel.core.reconcile.Preference.Deleted;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Carries the result of a merge to both sides, one thing at a time. Every step can be cut off: what was agreed is noted only after
 * the other has answered, the losing values of a merge are noted before anything is written over, and whatever happens in between is
 * seen by the next settling as what both sides have then. Nothing here keeps a state of its own.
 *
 * @param <K> names a thing
 * @param <D> all that a side has of it
 */
public final class Exchange<K, D> {
    private static final int MOST_ATTEMPTS = 4;

    private final Shape<D> shape;
    private final Ledger<K, D> ledger;
    private final Remote<K, D> remote;

    /**
     * Our side of a thing.
     *
     * @param here our own state
     * @param base what the sides’ changes are told from: what they last agreed on; null while they never did
     * @param sending what was being written when no answer came; null otherwise
     * @param detached whether the one side let go of it while the other keeps it: it is exchanged no more, or not until somebody has
     *     {@linkplain Ledger#ask said} what becomes of it
     * @param version changes with every change of this entry
     */
    public record Entry<D>(
            Side<D> here, @Nullable Base<D> base, @Nullable Sending<D> sending, boolean detached, long version) {}

    /**
     * A write under way.
     *
     * @param here what ours was then
     * @param before what the other had
     * @param there what it was to have; null for nothing
     * @param tag of the state that was to be written over
     * @param mark told to the other with the write, so that it can be known again
     */
    public record Sending<D>(
            @Nullable D here,
            @Nullable D before,
            @Nullable D there,
            @Nullable String tag,
            String mark) {}

    /** Our own records. */
    public interface Ledger<K, D> {
        Entry<D> read(K key);

        /** Keeps the losing values; keeping the same again does nothing. */
        void note(K key, List<Conflict<D>> conflicts);

        /**
         * In one transaction, before anything is written over: the losing values, and what is about to be written.
         *
         * @param base what the sides’ changes are told from now
         * @param sending null when it is known not to have been written
         */
        void sending(K key, @Nullable Base<D> base, @Nullable Sending<D> sending, List<Conflict<D>> conflicts);

        /**
         * In one transaction: our side, and what is agreed; nothing is being sent any more.
         *
         * @param here what our side has from now on
         * @return false when the entry is no longer the one of that version; nothing is changed then
         */
        boolean agree(K key, long version, @Nullable D here, @Nullable D agreed, boolean detached);

        /**
         * In one transaction: one side removed it, the other keeps it, and what both agreed on stays known, until somebody says what becomes
         * of it. For where the policy {@linkplain Deleted#ASK asks}.
         *
         * @param deletedHere whether our side removed it
         * @return false when the entry is no longer the one of that version; nothing is changed then
         */
        default boolean ask(K key, long version, boolean deletedHere) {
            throw new UnsupportedOperationException("nobody is asked here");
        }
    }

    /**
     * @param tag names this state of the other's file (RFC 9110 §8.8.3); null where there is none
     * @param mark of our last write that it still carries; empty when it carries none
     */
    public record Found<D>(@Nullable D details, @Nullable String tag, String mark, Instant changedAt) {}

    /** The other side. Each call may throw when no answer comes, with or without its work done. */
    public interface Remote<K, D> {
        Found<D> find(K key);

        /**
         * Writes only if the file is still in that state (RFC 9110 §13.1.1, §13.1.2).
         *
         * @param details null to take it out
         * @param tag null if there must be none yet
         * @param mark to be kept with it
         * @return false when the file is in another state; nothing is written then
         */
        boolean write(K key, @Nullable D details, @Nullable String tag, String mark);
    }

    /** What settling came to. */
    public enum Outcome {
        /** Both sides have the same. */
        SAME,
        /** The other had to be written. */
        SENT,
        /** Our side had to be changed. */
        RECEIVED,
        /** Both. */
        MERGED,
        /** One side has it no more, and somebody is asked. */
        ASKED,
        /** Something is in the way each time: to be tried again later. */
        LATER
    }

    public Exchange(Shape<D> shape, Ledger<K, D> ledger, Remote<K, D> remote) {
        this.shape = shape;
        this.ledger = ledger;
        this.remote = remote;
    }

    /** What the other throws goes through; settling again goes on from what is there then. */
    public Outcome settle(K key, Preference preference) {
        for (int attempt = 0; attempt < MOST_ATTEMPTS; attempt++) {
            Entry<D> entry = ledger.read(key);
            if (entry.detached()) {
                return Outcome.SAME;
            }
            Found<D> found = remote.find(key);
            Base<D> base = base(entry, found);
            Wanted<D> wanted = wanted(base, entry, found, preference);
            if (wanted.asks()) {
                ledger.note(key, wanted.conflicts());
                if (ledger.ask(key, entry.version(), entry.here().details() == null)) {
                    return Outcome.ASKED;
                }
                continue;
            }
            boolean sends = !Objects.equals(wanted.there(), found.details());
            if (sends) {
                String mark = mark(entry, found);
                D ours = entry.here().details();
                Sending<D> sending = new Sending<>(ours, found.details(), wanted.there(), found.tag(), mark);
                ledger.sending(key, base, sending, wanted.conflicts());
                if (!remote.write(key, wanted.there(), found.tag(), mark)) {
                    ledger.sending(key, base, null, List.of());
                    continue;
                }
            } else if (!wanted.conflicts().isEmpty()) {
                ledger.note(key, wanted.conflicts());
            }
            boolean receives = !Objects.equals(wanted.here(), entry.here().details());
            if (ledger.agree(key, entry.version(), wanted.here(), wanted.agreed(), wanted.detached())) {
                return outcome(sends, receives);
            }
        }
        return Outcome.LATER;
    }

    /** What the sides' changes are told from: a write whose answer was lost, if it took place, else what was agreed. */
    private @Nullable Base<D> base(Entry<D> entry, Found<D> found) {
        Sending<D> sending = entry.sending();
        D theirs = found.details();
        if (sending != null
                && !Objects.equals(sending.tag(), found.tag())
                && sending.here() != null
                && sending.there() != null
                && theirs != null
                && tookPlace(sending, found, theirs)) {
            return new Base<>(sending.here(), sending.there());
        }
        return entry.base();
    }

    /** A program that changed the file since may have dropped the mark: then the words tell. */
    private boolean tookPlace(Sending<D> sending, Found<D> found, D theirs) {
        if (!found.mark().isEmpty()) {
            return found.mark().equals(sending.mark());
        }
        D before = sending.before();
        D written = Objects.requireNonNull(sending.there());
        return shape.parts().stream()
                .filter(Part::isTelling)
                // taking something away says little
                .filter(field -> !field.words(written).isBlank())
                .anyMatch(field -> (before == null || !field.of(before).equals(field.of(written)))
                        && field.of(written).equals(field.of(theirs)));
    }

    private static String mark(Entry<?> entry, Found<?> found) {
        byte[] bytes = (entry.version() + "/" + found.tag()).getBytes(java.nio.charset.StandardCharsets.UTF_8);
        return UUID.nameUUIDFromBytes(bytes).toString();
    }

    private static Outcome outcome(boolean sends, boolean receives) {
        if (sends) {
            return receives ? Outcome.MERGED : Outcome.SENT;
        }
        return receives ? Outcome.RECEIVED : Outcome.SAME;
    }

    /**
     * What each side shall have, and what they agree on then.
     *
     * @param asks whether both stay as they are until somebody has said what becomes of what one of them removed
     */
    private record Wanted<D>(
            @Nullable D here,
            @Nullable D there,
            @Nullable D agreed,
            boolean detached,
            boolean asks,
            List<Conflict<D>> conflicts) {}

    private Wanted<D> wanted(@Nullable Base<D> base, Entry<D> entry, Found<D> found, Preference preference) {
        Side<D> there = new Side<>(found.details(), found.changedAt());
        Merge<D> merge = Merge.of(shape, base, entry.here(), there, preference);
        D result = merge.result();
        if (!preference.gives()) {
            return taken(result, entry, found, preference, merge.conflicts());
        }
        if (result != null) {
            return new Wanted<>(result, result, result, false, false, merge.conflicts());
        }
        if (merge.deletedHere()) {
            D theirs = found.details();
            boolean asks = asks(theirs, preference.deletedHere());
            return new Wanted<>(null, left(theirs, preference.deletedHere()), null, true, asks, merge.conflicts());
        }
        D ours = entry.here().details();
        boolean asks = asks(ours, preference.deletedThere());
        return new Wanted<>(left(ours, preference.deletedThere()), null, null, true, asks, merge.conflicts());
    }

    private static boolean asks(@Nullable Object left, Deleted deleted) {
        return left != null && deleted == Deleted.ASK;
    }

    /** The other stays as it is, and what it has is what its next changes are told from. */
    private Wanted<D> taken(
            @Nullable D result, Entry<D> entry, Found<D> found, Preference preference, List<Conflict<D>> conflicts) {
        D theirs = found.details();
        D ours = entry.here().details();
        boolean apart = theirs == null || result == null;
        D here = result != null ? result : theirs == null ? left(ours, preference.deletedThere()) : null;
        boolean asks = result == null && theirs == null && asks(ours, preference.deletedThere());
        return new Wanted<>(here, theirs, apart ? null : theirs, apart, asks, conflicts);
    }

    private @Nullable D left(@Nullable D was, Deleted deleted) {
        if (was == null || deleted == Deleted.REMOVE) {
            return null;
        }
        return deleted == Deleted.CANCEL ? shape.cancel(was) : was;
    }
}
