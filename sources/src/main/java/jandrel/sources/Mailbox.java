package jandrel.sources;

import jandrel.core.item.Content.Attachment;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** One person's mailbox, open for reading. Used by one thread at a time. Every method may throw {@link SourceTrouble}. */
public interface Mailbox extends AutoCloseable {
    /** @param label what a person calls it: {@code inbox}, {@code sent} */
    record Folder(String name, String label) {}

    /** @param next the UID that the next message to arrive will have at least (RFC 3501 §2.3.1.1) */
    record Extent(long validity, long next) {}

    /**
     * @param bytes the message, or its beginning
     * @param attachments what the server says of them where the bytes are not the whole; else null
     */
    record Message(
            long uid,
            Instant received,
            byte[] bytes,
            @Nullable List<Attachment> attachments) {}

    /** The inbox and, where the server names one (RFC 6154), the folder of sent mail. */
    List<Folder> folders();

    /** One request. */
    /** What of the extensions that matter here it can do, in its own words. */
    String abilities();

    Extent extent(String folder);

    /** The UIDs of what arrived on that day or later and is numbered from {@code first} on, rising. */
    long[] uids(String folder, long first, LocalDate since);

    /** Messages in one request, two where some are long; those that have gone in the meantime are not among them. */
    List<Message> fetch(String folder, Collection<Long> uids);

    @Override
    void close();
}
