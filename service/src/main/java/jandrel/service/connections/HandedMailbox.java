package jandrel.service.connections;

import jandrel.core.item.Content.Attachment;
import jandrel.formats.mail.Authenticity;
import jandrel.formats.mail.MailLimits;
import jandrel.formats.mail.MailReader;
import jandrel.service.kernel.Vault;
import jandrel.sources.Mailbox;
import jandrel.store.connections.HandedOver;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;

/** What one person handed over, read like any other mailbox. Nothing is ever told to have gone from it: it only lets go. */
public final class HandedMailbox implements Mailbox {
    private static final long VALIDITY = 1;
    /** A keyword that no server can give: it holds a blank. */
    public static final String UNPROVEN = "not proven";

    private final HandedOver handed;
    private final Vault vault;
    private final UUID connection;
    private final List<String> believed;
    private final MailReader reader = new MailReader(MailLimits.USUAL);

    /** @param believed names of mail servers whose word on who sent a message is believed */
    HandedMailbox(HandedOver handed, Vault vault, UUID connection, List<String> believed) {
        this.believed = believed;
        this.handed = handed;
        this.vault = vault;
        this.connection = connection;
    }

    @Override
    public List<Folder> folders() {
        return List.of(new Folder("handed", "handed over", Role.INBOX));
    }

    @Override
    public String abilities() {
        return "";
    }

    @Override
    public Extent extent(String folder) {
        long next = handed.last(connection) + 1;
        return new Extent(VALIDITY, next, next, next);
    }

    @Override
    public long[] uids(String folder, long first, LocalDate since) {
        return handed.from(connection, first).stream()
                .mapToLong(Long::longValue)
                .toArray();
    }

    @Override
    public Set<Long> existing(String folder, Collection<Long> uids) {
        return new TreeSet<>(uids);
    }

    @Override
    public long count(String folder, long first, long last) {
        return Math.max(0, last - first + 1);
    }

    @Override
    public Optional<List<Run>> goneSince(String folder, long validity, long changes) {
        return Optional.of(List.of());
    }

    @Override
    public Set<Long> withKeyword(String folder, String keyword) {
        return Set.of();
    }

    @Override
    public void keyword(String folder, Collection<Long> uids, String keyword, boolean carries) {
        // there is nobody to tell
    }

    @Override
    public List<Message> fetch(String folder, Collection<Long> uids) {
        // one by one: each may be as large as the service takes
        return uids.stream()
                .flatMap(uid -> handed.some(connection, new Long[] {uid}).stream())
                .map(this::message)
                .toList();
    }

    private Message message(HandedOver.Handed h) {
        byte[] bytes = vault.open(connection, h.sealed());
        Set<String> keywords = Authenticity.isProven(bytes, believed) ? Set.of() : Set.of(UNPROVEN);
        if (bytes.length <= LONGEST) {
            return new Message(h.id(), h.at(), bytes, null, keywords, false);
        }
        List<Attachment> attachments = reader.read(bytes, h.at(), "handed").attachments();
        return new Message(h.id(), h.at(), Arrays.copyOf(bytes, LONGEST), attachments, keywords, true);
    }

    @Override
    public Optional<byte[]> whole(String folder, long uid, int largest) {
        return handed.some(connection, new Long[] {uid}).stream()
                .map(h -> vault.open(connection, h.sealed()))
                .findFirst();
    }

    @Override
    public void close() {
        handed.letGo(connection);
    }
}
