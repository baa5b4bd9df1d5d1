package jandrel.store.capture;

import jandrel.core.decide.Decision;
import jandrel.core.decide.ManualOverride;
import jandrel.core.decide.Reason;
import jandrel.core.decide.Rule;
import jandrel.core.decide.Verdict;
import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.store.kernel.Async;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Json;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * An item seen at a source, with its decision, ready to be recorded.
 *
 * @param position where at the source; one decision is current for each
 * @param facts null when nothing of it is to be kept, or known
 * @param content what it says, if that is at hand; may still be in the making
 * @param gone whether its source no longer shows it
 * @param hand what its owner chose by hand
 * @param dealings who deals with whom on it, where it is kept
 * @param phones hashes of those in a stranger's signature; may still be in the making;
 *     null where its text was not at hand, so that what is known stays
 * @param marked whether its mailbox carries a keyword while it is logged
 */
record DecidedItem(
        UUID sighting,
        int source,
        UUID person,
        String position,
        UUID item,
        String kind,
        Instant at,
        @Nullable Item facts,
        @Nullable Supplier<Content> content,
        boolean gone,
        ManualOverride hand,
        boolean marked,
        Dealings dealings,
        @Nullable Supplier<List<UUID>> phones,
        Decision decision) {

    /** By which it is what it is. */
    Rule rule() {
        List<Reason> trail = decision.trail();
        return trail.get(trail.size() - 1).rule();
    }

    /** @param was what stood in the same place */
    boolean isAnotherVerdictThan(RecordMapper.Placed was) {
        return was.item().equals(item)
                && !was.verdict().equals(decision.verdict().word());
    }

    /** A stored item, decided again. */
    static DecidedItem again(
            RecordMapper.Stored row,
            @Nullable Item facts,
            boolean gone,
            boolean marked,
            Dealings dealings,
            Decision decision) {
        return new DecidedItem(
                row.id(),
                row.source(),
                row.person(),
                row.position(),
                row.item(),
                row.kind(),
                row.at(),
                facts,
                null,
                gone,
                Hands.of(row.hand()),
                marked,
                dealings,
                null,
                decision);
    }

    /** A stored item that cannot be decided again, whatever is wrong with it. */
    static DecidedItem unreadable(RecordMapper.Stored row, Decision decision) {
        return again(row, null, row.gone(), false, Dealings.NONE, decision);
    }

    static DecidedItem of(
            ItemKeys keys, SourceRef place, FetchedItem seen, boolean marked, Dealings dealings, Decision decision) {
        Item item = seen.item();
        return new DecidedItem(
                keys.sighting(place.source(), seen.position()),
                place.source(),
                place.person(),
                seen.position(),
                keys.item(item.identity()),
                Json.kind(item),
                item.at(),
                item,
                decision.verdict() == Verdict.LOGGED ? Async.made(seen.content()) : null,
                false,
                seen.hand(),
                marked,
                dealings,
                phones(keys, seen, dealings),
                decision);
    }

    private static Supplier<List<UUID>> phones(ItemKeys keys, FetchedItem seen, Dealings dealings) {
        return dealings.strangerWrote()
                ? Async.made(() -> seen.phones().get().stream()
                        .map(n -> keys.phone(n.text()))
                        .toList())
                : List::of;
    }
}
