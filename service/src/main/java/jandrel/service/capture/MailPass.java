package jandrel.service.capture;

import jandrel.core.item.Item;
import jandrel.core.policy.Folders;
import jandrel.sources.Mailbox;
import jandrel.sources.Mailbox.Extent;
import jandrel.sources.Mailbox.Folder;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Positions;
import jandrel.store.capture.SourceRef;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import jandrel.store.policy.Policies;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Reads what is new in the folders of one mailbox, and once more what is wanted again. */
@Component
class MailPass {
    private static final int REFETCH = 250;
    private static final UUID NOBODY = new UUID(0, 0);
    private static final Instant FIRST_MAIL = Instant.parse("1980-01-01T00:00:00Z");
    private final Connections connections;
    private final Intake intake;
    private final Positions positions;
    private final FolderReconciler compare;
    private final Policies policies;
    private final MailLots lots;

    MailPass(
            Connections connections,
            Intake intake,
            Positions positions,
            FolderReconciler compare,
            Policies policies,
            MailLots lots) {
        this.lots = lots;
        this.policies = policies;
        this.compare = compare;
        this.connections = connections;
        this.intake = intake;
        this.positions = positions;
    }

    /** @return how many new messages it read */
    long over(Mailbox mailbox, Connection connection) {
        List<Folder> folders = mailbox.folders();
        Map<String, Source> known = known(mailbox, connection, folders, folders(connection));
        List<FolderRead> reads = new ArrayList<>();
        // the newest of every folder before the older of any; what arrives meanwhile goes ahead
        List<FolderRead> open = new ArrayList<>();
        for (Folder folder : folders) {
            Source source = known.get(folder.name());
            if (source != null && source.chosen()) {
                FolderRead read = begun(mailbox, folder, source, connection);
                reads.add(read);
                if (goesOn(mailbox, read)) {
                    open.add(read);
                }
            }
        }
        while (!open.isEmpty()) {
            open.removeIf(read -> !goesOn(mailbox, read));
        }
        return reads.stream().mapToLong(FolderRead::messages).sum();
    }

    /** A folder that is read is settled at once, whatever becomes of the next. */
    private boolean goesOn(Mailbox mailbox, FolderRead read) {
        if (read.slice(mailbox)) {
            return true;
        }
        if (!read.isRenumbered()) {
            settle(mailbox, read);
        }
        return false;
    }

    private FolderRead begun(Mailbox mailbox, Folder folder, Source source, Connection connection) {
        // what somebody puts into a folder for it counts however old it is
        Instant since = source.counts() ? FIRST_MAIL : connection.since();
        SourceRef place = new SourceRef(source.id(), connection.person(), since, connection.generation());
        boolean first = source.cursor().isEmpty();
        Extent extent = first ? mailbox.enter(folder.name()) : mailbox.extent(folder.name());
        return new FolderRead(lots, folder, source, new FolderReading(place, extent, Choices.of(connection)));
    }

    /** Once all that is new in a folder has been read. */
    private void settle(Mailbox mailbox, FolderRead read) {
        FolderReading reading = read.reading();
        Folder folder = read.folder();
        MailCursor before = read.before();
        boolean anew =
                before.validity() != 0 && before.validity() != reading.extent().validity();
        // an earlier look may have been cut off between reading by the new numbers and forgetting the old ones
        if (anew || (before.validity() != 0 && !before.wasCompared())) {
            forgetOldNumbers(reading.place(), reading.extent().validity());
        }
        compare.over(
                mailbox,
                folder,
                reading,
                read.cursor(),
                before,
                uids -> lots.parsed(mailbox.fetch(folder.name(), uids), reading));
        readAgain(mailbox, folder, reading);
        compare.setKeywords(mailbox, folder, reading);
    }

    private Folders folders(Connection connection) {
        return policies.of(connection.person()).map(p -> p.scope().folders()).orElse(Folders.SAFE);
    }

    /** The sources by the folder's name, new folders among them, and renamed ones under their new name. */
    private Map<String, Source> known(Mailbox mailbox, Connection connection, List<Folder> folders, Folders wanted) {
        Map<String, Source> before = named(connection);
        Map<String, Source> known = followed(before.values(), wanted) ? named(connection) : before;
        List<Folder> added =
                folders.stream().filter(f -> !known.containsKey(f.name())).toList();
        if (added.isEmpty()) {
            return known;
        }
        Set<String> names = folders.stream().map(Folder::name).collect(Collectors.toSet());
        List<Source> lost =
                known.values().stream().filter(s -> !names.contains(s.name())).toList();
        for (Folder folder : added) {
            Optional<Source> same = lost.isEmpty() ? Optional.empty() : renamed(mailbox.extent(folder.name()), lost);
            same.ifPresentOrElse(
                    source -> connections.renamed(source.id(), folder.name(), folder.label()),
                    () -> connections.addFolder(
                            connection.id(),
                            folder.name(),
                            folder.label(),
                            folder.role().word(),
                            wanted.looksAt(folder.name(), folder.role().word())));
        }
        return named(connection);
    }

    /** Reads what the policy wants read by now, and nothing else; whether that changed anything. */
    private boolean followed(Collection<Source> sources, Folders wanted) {
        boolean moved = false;
        for (Source source : sources) {
            boolean looks = wanted.looksAt(source.name(), source.role());
            if (!source.ownChoice() && source.chosen() != looks) {
                moved |= connections.followPolicy(source.id(), looks) > 0;
            }
        }
        return moved;
    }

    /** A folder keeps its UIDVALIDITY and its numbers under another name (RFC 3501 §6.3.5). */
    private static Optional<Source> renamed(Extent extent, List<Source> lost) {
        List<Source> same = lost.stream()
                .filter(s -> !s.cursor().isEmpty())
                .filter(s -> MailCursor.of(s.cursor()).validity() == extent.validity()
                        && MailCursor.of(s.cursor()).next() <= extent.next())
                .toList();
        return same.size() == 1 ? Optional.of(same.get(0)) : Optional.empty();
    }

    private Map<String, Source> named(Connection connection) {
        return connections.sources(connection.id()).stream()
                .collect(Collectors.toMap(Source::name, s -> s, (a, b) -> a, LinkedHashMap::new));
    }

    /** Items for a rehearsal, by position; nothing of them is kept. */
    Map<String, Item> items(Mailbox mailbox, Source source, List<String> wanted) {
        FolderReading reading = new FolderReading(
                new SourceRef(source.id(), NOBODY, Instant.EPOCH, 0), mailbox.extent(source.name()), Choices.NONE);
        long validity = reading.extent().validity();
        List<Long> uids = wanted.stream()
                .map(MailCursor::of)
                .filter(p -> p.validity() == validity)
                .map(MailCursor::next)
                .toList();
        Map<String, Item> items = new HashMap<>();
        for (int from = 0; from < uids.size(); from += MailLots.LARGEST) {
            lots.parsed(
                            mailbox.fetch(
                                    source.name(), uids.subList(from, Math.min(uids.size(), from + MailLots.LARGEST))),
                            reading)
                    .forEach(s -> items.put(s.position(), s.item()));
        }
        return items;
    }

    private void forgetOldNumbers(SourceRef place, long validity) {
        List<String> old = positions.all(place.source()).stream()
                .filter(p -> MailCursor.of(p).validity() != validity)
                .toList();
        for (int from = 0; from < old.size(); from += MailLots.LARGEST) {
            positions.forget(place.source(), old.subList(from, Math.min(old.size(), from + MailLots.LARGEST)));
        }
    }

    private void readAgain(Mailbox mailbox, Folder folder, FolderReading reading) {
        SourceRef place = reading.place();
        long validity = reading.extent().validity();
        List<String> before = List.of();
        for (List<String> wanted = positions.toRefetch(place.source(), REFETCH);
                !wanted.isEmpty() && !wanted.equals(before);
                wanted = positions.toRefetch(place.source(), REFETCH)) {
            before = wanted;
            Set<String> missing = new HashSet<>(wanted);
            List<Long> uids = wanted.stream()
                    .map(MailCursor::of)
                    .filter(p -> p.validity() == validity)
                    .map(MailCursor::next)
                    .toList();
            List<FetchedItem> seen = lots.parsed(mailbox.fetch(folder.name(), uids), reading);
            intake.take(place, seen, List.of(), null);
            seen.forEach(s -> missing.remove(s.position()));
            if (!missing.isEmpty()) {
                positions.cannotRefetch(place.source(), missing);
            }
        }
    }
}
