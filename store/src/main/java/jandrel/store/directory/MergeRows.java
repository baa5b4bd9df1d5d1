package jandrel.store.directory;

import java.util.List;
import java.util.Optional;
import java.util.UUID;

/** What makes one record of two of a kind, and two of one again. */
interface MergeRows {
    /** All that the one who goes has, and what is to be known of the one that stays: a text that {@link #restore} understands. */
    String written(UUID stays, UUID goes);

    /** The one that stays gets what the other has. */
    int passOn(UUID stays, UUID goes);

    /** What files say of the key of the one that goes, they say of the one that stays. */
    int remember(UUID stays, UUID goes);

    int remove(UUID goes);

    /** What the one that stays had of its own stays with it; what it was given since, too. */
    int restore(UUID stays, String before);

    /** Whom files mean today by the key of the one that went; nothing where that record is gone, too. */
    Optional<UUID> meant(String before);

    /** By what items are matched to these. */
    List<String> keysOf(UUID[] records);
}
