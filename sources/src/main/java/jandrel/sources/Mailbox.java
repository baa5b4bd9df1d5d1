package jandrel.sources;

import jandrel.core.item.Content.Attachment;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** One person's mailbox, open for reading. Used by one thread at a time. Every method may throw {@link SourceTrouble}. */
public interface Mailbox extends AutoCloseable {
    /** @param label what a person calls it: {@code inbox}, {@code sent}, or its name */
    record Folder(String name, String label, Role role) {}

    /** What a folder is for (RFC 6154). Drafts, junk and what was thrown away are never listed. */
    enum Role {
        INBOX,
        SENT,
        ARCHIVE,
        OTHER;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * @param next the UID that the next message to arrive will have at least (RFC 3501 §2.3.1.1)
     * @param messages how many it holds
     * @param changes grows with every change of any message (RFC 7162 §3.1.2, HIGHESTMODSEQ); 0 where the server does not count them
     */
    record Extent(long validity, long next, long messages, long changes) {}

    /**
     * @param bytes the message, or its beginning
     * @param attachments what the server says of them where the bytes are not the whole; else null
     * @param keywords in lower case
     * @param more whether the message goes on after these bytes
     */
    record Message(
            long uid,
            Instant received,
            byte[] bytes,
            @Nullable List<Attachment> attachments,
            Set<String> keywords,
            boolean more) {}

    /** Some consecutive UIDs, both ends among them. */
    record Run(long first, long last) {}

    /** Lets go of the folder that is open, and says whether the server still answers: then it can be used once more. */
    default boolean answers() {
        return false;
    }

    /** All folders that can hold mail of interest, the inbox first. */
    List<Folder> folders();

    /** What of the extensions that matter here it can do, in its own words. */
    String abilities();

    /** One request. */
    Extent extent(String folder);

    /** The extent of a folder that is read next: opening it says as much, and asking before costs a server as long again. */
    default Extent enter(String folder) {
        return extent(folder);
    }

    /** The UIDs of what arrived on that day or later and is numbered from {@code first} on, rising. */
    long[] uids(String folder, long first, LocalDate since);

    /** Which of these are still there. One request. */
    Set<Long> existing(String folder, Collection<Long> uids);

    /** How many are numbered from {@code first} to {@code last}. One request. */
    long count(String folder, long first, long last);

    /**
     * What has gone since then (RFC 7162 §3.2.6), and perhaps more that went before. One request.
     *
     * @return nothing where the server does not keep account of it
     */
    Optional<List<Run>> goneSince(String folder, long validity, long changes);

    /** The UIDs of what carries this keyword. One request. */
    Set<Long> withKeyword(String folder, String keyword);

    /** Puts a keyword to messages, or takes it off them; one that the server does not let be kept is passed over. */
    void keyword(String folder, Collection<Long> uids, String keyword, boolean carries);

    /** What is fetched of a message at most; the text of mail with large attachments comes before them. */
    int LONGEST = 128 * 1024;

    /** How many bytes these have, of those that are there; so that lots can be bounded by that, too. */
    default Map<Long, Long> sizes(String folder, Collection<Long> uids) {
        return Map.of();
    }

    /** Messages in one request, two where some are long; those that have gone in the meantime are not among them. */
    List<Message> fetch(String folder, Collection<Long> uids);

    /** One message as it is, if it is there and no larger than that. Up to two requests. */
    Optional<byte[]> whole(String folder, long uid, int largest);

    @Override
    void close();
}
