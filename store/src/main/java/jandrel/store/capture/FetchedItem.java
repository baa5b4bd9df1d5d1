package jandrel.store.capture;

import jandrel.core.address.PhoneNumber;
import jandrel.core.decide.ManualOverride;
import jandrel.core.item.Content;
import jandrel.core.item.Item;
import java.util.List;
import java.util.function.Supplier;

/**
 * An item as its reader hands it over.
 *
 * @param position where at the source; one decision is current for each
 * @param content asked for only when the item is logged
 * @param phones in its author's signature; asked for only where the author is a stranger
 * @param hand what its owner chose for it by hand
 */
public record FetchedItem(
        String position,
        Item item,
        Supplier<Content> content,
        Supplier<List<PhoneNumber>> phones,
        ManualOverride hand) {
    public FetchedItem(String position, Item item, Supplier<Content> content) {
        this(position, item, content, List::of, ManualOverride.NONE);
    }
}
