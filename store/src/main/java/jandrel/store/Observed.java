package jandrel.store;

import jandrel.core.decide.Decision;
import jandrel.core.item.Content;
import jandrel.core.item.Item;
import java.time.Instant;
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
 */
record Observed(
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
        Decision decision) {

    /** A stored item, decided again. */
    static Observed again(RecordMapper.Stored row, @Nullable Item facts, boolean gone, Decision decision) {
        return new Observed(
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
                decision);
    }

    static Observed of(
            ItemKeys keys,
            Place place,
            String position,
            Item item,
            @Nullable Supplier<Content> content,
            Decision decision) {
        return new Observed(
                keys.sighting(place.source(), position),
                place.source(),
                place.person(),
                position,
                keys.item(item.identity()),
                Json.kind(item),
                item.at(),
                item,
                content,
                false,
                decision);
    }
}
