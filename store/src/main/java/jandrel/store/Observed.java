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
        Decision decision) {

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
                decision);
    }
}
