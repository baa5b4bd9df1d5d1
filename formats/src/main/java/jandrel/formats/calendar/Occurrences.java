package jandrel.formats.calendar;

import jandrel.core.item.Content;
import jandrel.core.item.Item;
import java.util.List;

/**
 * What one calendar object gave inside a window.
 *
 * @param goesOn whether its series has occurrences after the window, so that it must be read again as the window moves on
 */
public record Occurrences(List<Occurrence> found, boolean goesOn) {
    /** @param place names the occurrence inside its calendar object; empty when there is only one */
    public record Occurrence(String place, Item item, Content content) {}
}
