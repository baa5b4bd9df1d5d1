package jandrel.core.contacts;

import java.util.List;
import java.util.Optional;
import java.util.UUID;

/** The part of the directory that a batch of cards may be about. */
public interface CardIndex {
    /**
     * A contact of the directory, as far as it can be told by.
     *
     * @param account where they are; empty for none
     * @param archived whether they are out of the lists: no card becomes theirs
     */
    record Known(UUID id, NameKey name, Optional<UUID> account, boolean archived) {}

    /** Whether there is such a contact still, and not archived, and who it is by now: one that was merged into another is the other. */
    Optional<UUID> now(UUID contact);

    /** @param mail in the form in which addresses are compared */
    List<Known> byMail(String mail);

    /** @param phone in the form in which numbers are compared */
    List<Known> byPhone(String phone);

    List<Known> byName(NameKey name);

    /** Accounts of that name, or whose domain one of the addresses has. */
    List<UUID> accounts(ContactDetails card);

    /** Whether an address is a colleague's, or at one of our own domains. */
    boolean isInside(String mail);

    /** Whether an address is never captured from this book. */
    boolean isExcluded(String mail);
}
