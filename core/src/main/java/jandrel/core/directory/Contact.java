package jandrel.core.directory;

import java.time.LocalDate;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * @param key the directory's own key, which settles what nothing else does
 * @param lastActive when the directory says the contact was last active
 */
public record Contact(
        UUID id,
        String key,
        String name,
        @Nullable Account account,
        @Nullable LocalDate lastActive) {}
