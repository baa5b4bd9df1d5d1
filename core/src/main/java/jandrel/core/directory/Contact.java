package jandrel.core.directory;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * @param key the directory's own key, which settles what nothing else does
 * @param account where the contact is now
 * @param lastActive when the directory says the contact was last active
 * @param earlier where the contact was before, in any order
 * @param madeAt when the contact came here
 */
public record Contact(
        UUID id,
        String key,
        String name,
        @Nullable Account account,
        @Nullable LocalDate lastActive,
        List<Stay> earlier,
        Instant madeAt) {
    public Contact {
        earlier = List.copyOf(earlier);
    }

    /** One that has always been where it is. */
    public Contact(UUID id, String key, String name, @Nullable Account account, @Nullable LocalDate lastActive) {
        this(id, key, name, account, lastActive, List.of());
    }

    /** One that came here before anybody remembers. */
    public Contact(
            UUID id,
            String key,
            String name,
            @Nullable Account account,
            @Nullable LocalDate lastActive,
            List<Stay> earlier) {
        this(id, key, name, account, lastActive, earlier, Instant.EPOCH);
    }

    /**
     * An account that a contact belonged to.
     *
     * @param until the first day on which they no longer did
     */
    public record Stay(Account account, LocalDate until) {}

    /** The stay that a day falls into; nothing when the contact was where they are now. */
    public java.util.Optional<Stay> stayOn(LocalDate day) {
        return earlier.stream()
                .filter(stay -> day.isBefore(stay.until()))
                .min(java.util.Comparator.comparing(Stay::until)
                        .thenComparing(stay -> stay.account().id()));
    }
}
