package jandrel.core.opening;

import jandrel.core.opening.OpeningMeeting.Guest;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * What one meeting does, and why.
 *
 * @param key of the account: its id, or the domain of one that is made; empty where it is about none
 * @param account its name; of one that is made, its domain
 * @param opportunity that it joins; null for one that is opened, by this meeting or by one before it in the same run
 * @param owner of what it opens
 * @param name likewise
 * @param newContacts guests who become contacts of the account, or leads
 * @param takingPart contacts of the account who take part
 * @param why a sentence
 */
public record OpeningResult(
        UUID item,
        Did did,
        String key,
        String account,
        @Nullable UUID opportunity,
        @Nullable UUID owner,
        String name,
        List<Guest> newContacts,
        List<UUID> takingPart,
        String why) {
    /** What came of it. */
    public enum Did {
        OPENED,
        JOINED,
        LEADS,
        NOTHING,
        /** So much was made today that it waits for tomorrow. */
        WAITS
    }

    public OpeningResult {
        newContacts = List.copyOf(newContacts);
        takingPart = List.copyOf(takingPart);
    }

    static OpeningResult nothing(UUID item, String why) {
        return none(item, Did.NOTHING, why);
    }

    static OpeningResult none(UUID item, Did did, String why) {
        return new OpeningResult(item, did, "", "", null, null, "", List.of(), List.of(), why);
    }
}
