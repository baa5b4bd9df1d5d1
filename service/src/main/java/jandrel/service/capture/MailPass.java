package jandrel.service.capture;

import jandrel.core.decide.ManualOverride;
import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.core.policy.Folders;
import jandrel.formats.calendar.Reply;
import jandrel.formats.mail.MailLimits;
import jandrel.formats.mail.MailReader;
import jandrel.formats.mail.Phones;
import jandrel.formats.mail.ReadMail;
import jandrel.service.connections.HandedMailbox;
import jandrel.sources.Mailbox;
import jandrel.sources.Mailbox.Extent;
import jandrel.sources.Mailbox.Folder;
import jandrel.sources.Mailbox.Message;
import jandrel.store.capture.CursorMove;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Intake.Prepared;
import jandrel.store.capture.Lateness;
import jandrel.store.capture.Positions;
import jandrel.store.capture.SourceRef;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import jandrel.store.policy.Policies;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
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
    private static final int BATCH = 500;
    private static final long MOST_BYTES = 8L * 1024 * 1024;
    private static final long USUAL_BYTES = 16L * 1024;
    private static final int REFETCH = 250;
    private static final UUID NOBODY = new UUID(0, 0);
    private static final Instant FIRST_MAIL = Instant.parse("1980-01-01T00:00:00Z");
    private final Connections connections;
    private final Intake intake;
    private final Positions positions;
    private final FolderReconciler compare;
    private final ReplySink replies;
    private final Policies policies;
    private final Phones phones;
    private final Lateness lateness;
    private final MailReader reader = new MailReader(MailLimits.USUAL);

    private static final Set<String> ARRIVE = Set.of("inbox", "sent");

    /** @param cursor as it stands then */
    private record Read(String cursor, long messages) {}

    MailPass(
            Connections connections,
            Intake intake,
            Positions positions,
            FolderReconciler compare,
            ReplySink replies,
            Policies policies,
            Phones phones,
            Lateness lateness) {
        this.lateness = lateness;
        this.phones = phones;
        this.policies = policies;
        this.replies = replies;
        this.compare = compare;
        this.connections = connections;
        this.intake = intake;
        this.positions = positions;
    }

    /** @return how many new messages it read */
    long over(Mailbox mailbox, Connection connection) {
        long read = 0;
        List<Folder> folders = mailbox.folders();
        Map<String, Source> known = known(mailbox, connection, folders, folders(connection));
        for (Folder folder : folders) {
            Source source = known.get(folder.name());
            if (source != null && source.chosen()) {
                read += over(mailbox, folder, source, connection);
            }
        }
        return read;
    }

    private long over(Mailbox mailbox, Folder folder, Source source, Connection connection) {
        // what somebody puts into a folder for it counts however old it is
        Instant since = source.counts() ? FIRST_MAIL : connection.since();
        SourceRef place = new SourceRef(source.id(), connection.person(), since, connection.generation());
        FolderReading reading = new FolderReading(place, mailbox.extent(folder.name()), Choices.of(connection));
        MailCursor cursor = MailCursor.of(source.cursor());
        Read now = new Read(source.cursor(), 0);
        if (cursor.validity() != reading.extent().validity()
                || cursor.next() < reading.extent().next()) {
            now = readNew(mailbox, folder, reading, source);
        }
        boolean anew =
                cursor.validity() != 0 && cursor.validity() != reading.extent().validity();
        // an earlier look may have been cut off between reading by the new numbers and forgetting the old ones
        if (anew || (cursor.validity() != 0 && !cursor.wasCompared())) {
            forgetOldNumbers(place, reading.extent().validity());
        }
        compare.over(
                mailbox,
                folder,
                reading,
                now.cursor(),
                cursor,
                uids -> parsed(mailbox.fetch(folder.name(), uids), reading));
        readAgain(mailbox, folder, reading);
        compare.setKeywords(mailbox, folder, reading);
        return now.messages();
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

    private Read readNew(Mailbox mailbox, Folder folder, FolderReading reading, Source source) {
        String cursorText = source.cursor();
        MailCursor cursor = MailCursor.of(cursorText);
        // what was there before, or was only filed elsewhere, did not arrive now
        boolean arrives = cursor.validity() == reading.extent().validity() && ARRIVE.contains(source.role());
        Extent extent = reading.extent();
        SourceRef place = reading.place();
        long first = cursor.validity() == extent.validity() ? cursor.next() : 1;
        // a day earlier: the server compares days in a zone of its own
        LocalDate since = place.since().atOffset(ZoneOffset.UTC).toLocalDate().minusDays(1);
        long[] uids = mailbox.uids(folder.name(), first, since);
        // few are no danger, however long they are
        Map<Long, Long> sizes = uids.length > MOST_BYTES / Mailbox.LONGEST
                ? mailbox.sizes(folder.name(), Arrays.stream(uids).boxed().toList())
                : Map.of();
        String from = cursorText;
        try (Prefetch<Long, ParsedBatch> batches = new Prefetch<>(
                batches(uids, sizes).iterator(),
                b -> weight(b, sizes),
                b -> mailbox.fetch(folder.name(), b),
                (uidBatch, m) -> parsed(uidBatch.get(uidBatch.size() - 1), m, reading))) {
            for (ParsedBatch batch = batches.next(); batch != null; batch = batches.next()) {
                String to = cursor.read(extent.validity(), batch.lastUid() + 1).toString();
                // before the cursor moves past them
                batch.replies().forEach(reply -> replies.take(place.person(), reply));
                intake.takePrepared(place, batch.prepared(), new CursorMove(place.source(), from, to, null));
                if (arrives) {
                    lateness.arrived(batch.arrivals());
                }
                from = to;
            }
        }
        MailCursor read = MailCursor.of(from);
        // a number of another numbering says nothing
        long next = read.validity() == extent.validity() ? Math.max(extent.next(), read.next()) : extent.next();
        String end = cursor.read(extent.validity(), next).toString();
        if (!end.equals(from)) {
            intake.take(place, List.of(), List.of(), new CursorMove(place.source(), from, end, null));
        }
        return new Read(end, uids.length);
    }

    private record ParsedBatch(long lastUid, Prepared prepared, List<Reply> replies, List<Instant> arrivals) {}

    private record Parsed(List<FetchedItem> seen, List<Reply> replies) {}

    /** Lots bounded by number and by bytes. */
    private static List<List<Long>> batches(long[] uids, Map<Long, Long> sizes) {
        List<List<Long>> batches = new ArrayList<>();
        List<Long> batch = new ArrayList<>(BATCH);
        long bytes = 0;
        for (long uid : uids) {
            long size = weight(uid, sizes);
            if (batch.size() == BATCH || bytes + size > MOST_BYTES) {
                batches.add(batch);
                batch = new ArrayList<>(BATCH);
                bytes = 0;
            }
            batch.add(uid);
            bytes += size;
        }
        if (!batch.isEmpty()) {
            batches.add(batch);
        }
        return batches;
    }

    private static long weight(long uid, Map<Long, Long> sizes) {
        return Math.min(Mailbox.LONGEST, sizes.getOrDefault(uid, USUAL_BYTES));
    }

    private static long weight(List<Long> batch, Map<Long, Long> sizes) {
        return batch.stream().mapToLong(uid -> weight(uid, sizes)).sum();
    }

    private List<FetchedItem> parsed(List<Message> messages, FolderReading reading) {
        return read(messages, reading).seen();
    }

    private ParsedBatch parsed(long lastUid, List<Message> messages, FolderReading reading) {
        Parsed parsed = read(messages, reading);
        List<Instant> arrivals = messages.stream()
                .map(Message::received)
                .filter(Instant.EPOCH::isBefore)
                .toList();
        return new ParsedBatch(lastUid, intake.prepare(reading.place(), parsed.seen()), parsed.replies(), arrivals);
    }

    private Parsed read(List<Message> messages, FolderReading reading) {
        List<FetchedItem> seen = new ArrayList<>(messages.size());
        List<Reply> replies = new ArrayList<>(0);
        for (Message message : messages) {
            String position = MailCursor.position(reading.extent().validity(), message.uid());
            ReadMail mail = reader.read(
                    message.bytes(), message.received(), reading.place().source() + "/" + position, message.more());
            seen.add(new FetchedItem(
                    position,
                    mail.item(),
                    () -> content(mail, message),
                    () -> mail.phones(phones),
                    message.keywords().contains(HandedMailbox.UNPROVEN)
                            ? ManualOverride.unproven("")
                            : reading.choices().of(message.keywords())));
            mail.reply().ifPresent(replies::add);
        }
        return new Parsed(seen, replies);
    }

    private static Content content(ReadMail mail, Message message) {
        Content read = mail.content();
        return message.attachments() == null ? read : new Content(read.text(), read.html(), message.attachments());
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
        for (int from = 0; from < uids.size(); from += BATCH) {
            parsed(mailbox.fetch(source.name(), uids.subList(from, Math.min(uids.size(), from + BATCH))), reading)
                    .forEach(s -> items.put(s.position(), s.item()));
        }
        return items;
    }

    private void forgetOldNumbers(SourceRef place, long validity) {
        List<String> old = positions.all(place.source()).stream()
                .filter(p -> MailCursor.of(p).validity() != validity)
                .toList();
        for (int from = 0; from < old.size(); from += BATCH) {
            positions.forget(place.source(), old.subList(from, Math.min(old.size(), from + BATCH)));
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
            List<FetchedItem> seen = parsed(mailbox.fetch(folder.name(), uids), reading);
            intake.take(place, seen, List.of(), null);
            seen.forEach(s -> missing.remove(s.position()));
            if (!missing.isEmpty()) {
                positions.cannotRefetch(place.source(), missing);
            }
        }
    }
}
