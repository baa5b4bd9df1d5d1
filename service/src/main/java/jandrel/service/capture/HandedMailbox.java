package jandrel.service.capture;

import jandrel.service.Vault;
import jandrel.sources.Mailbox;
import jandrel.store.HandedOver;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;

/** What one person handed over, read like any other mailbox. Nothing is ever told to have gone from it: it only lets go. */
final class HandedMailbox implements Mailbox {
    private static final long VALIDITY = 1;
    private final HandedOver handed;
    private final Vault vault;
    private final UUID connection;

    HandedMailbox(HandedOver handed, Vault vault, UUID connection) {
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
        return handed.some(connection, uids.toArray(Long[]::new)).stream()
                .map(h -> new Message(h.id(), h.at(), vault.open(connection, h.sealed()), null, Set.of()))
                .toList();
    }

    @Override
    public Optional<byte[]> whole(String folder, long uid, int largest) {
        return fetch(folder, List.of(uid)).stream().map(Message::bytes).findFirst();
    }

    @Override
    public void close() {
        handed.letGo(connection);
    }
}
