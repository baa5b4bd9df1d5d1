package jandrel.core.timeline;

import jandrel.core.decide.Reason;
import jandrel.core.item.Item;
import jandrel.core.visibility.Readers;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * What an activity says to some of those who see it: all copies of it that say the same. Most activities have one face alone.
 *
 * @param readers who reads it in full
 * @param mine who brought a copy that says this; they read this face, whatever others read
 * @param elsewhere who brought a copy that says something else
 * @param rivals for the first face, who reads a later one; for a later one, who reads an earlier one
 * @param copies the copies that say this
 * @param content names its text; null while that is not known
 * @param authors who of those who brought a copy wrote it, and so knows of blind copies
 * @param trail how it is marked, and why these readers, where more than one rule had a say; mostly empty
 */
public record Face(
        Item item,
        Readers readers,
        Set<UUID> mine,
        Set<UUID> elsewhere,
        Readers rivals,
        Set<UUID> copies,
        @Nullable UUID content,
        Set<UUID> authors,
        List<Reason> trail) {
    public Face {
        mine = Set.copyOf(mine);
        elsewhere = Set.copyOf(elsewhere);
        copies = Set.copyOf(copies);
        authors = Set.copyOf(authors);
        trail = List.copyOf(trail);
    }
}
