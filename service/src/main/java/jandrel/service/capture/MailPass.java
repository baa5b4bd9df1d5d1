package jandrel.service.capture;

import jandrel.core.item.Content;
import jandrel.core.item.Item;
import jandrel.formats.mail.MailLimits;
import jandrel.formats.mail.MailReader;
import jandrel.formats.mail.ReadMail;
import jandrel.sources.Mailbox;
import jandrel.sources.Mailbox.Extent;
import jandrel.sources.Mailbox.Folder;
import jandrel.sources.Mailbox.Message;
import jandrel.store.Connections;
import jandrel.store.Connections.Connection;
import jandrel.store.Connections.Source;
import jandrel.store.CursorMove;
import jandrel.store.Intake;
import jandrel.store.Place;
import jandrel.store.Positions;
import jandrel.store.Seen;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Reads what is new in the folders of one mailbox, and once more what is wanted again. */
@Component
class MailPass {
    private static final int BATCH = 250;
    private static final int REFETCH = 250;
    private static final UUID NOBODY = new UUID(0, 0);
    private final Connections connections;
    private final Intake intake;
    private final Positions positions;
    private final MailReader reader = new MailReader(MailLimits.USUAL);

    MailPass(Connections connections, Intake intake, Positions positions) {
        this.connections = connections;
        this.intake = intake;
        this.positions = positions;
    }

    void over(Mailbox mailbox, Connection connection) {
        for (Folder folder : mailbox.folders()) {
            Source source = source(connection, folder);
            if (!source.chosen()) {
                continue;
            }
            Place place = new Place(source.id(), connection.person(), connection.since());
            Extent extent = mailbox.extent(folder.name());
            MailCursor cursor = MailCursor.of(source.cursor());
            if (cursor.validity() != extent.validity() || cursor.next() < extent.next()) {
                readNew(mailbox, folder, place, extent, source.cursor());
            }
            if (cursor.validity() != 0 && cursor.validity() != extent.validity()) {
                forgetOldNumbers(place, extent.validity());
            }
            readAgain(mailbox, folder, place, extent.validity());
        }
    }

    private Source source(Connection connection, Folder folder) {
        return known(connection, folder).orElseGet(() -> {
            connections.addSource(connection.id(), "folder", folder.name(), folder.label());
            return known(connection, folder).orElseThrow();
        });
    }

    private java.util.Optional<Source> known(Connection connection, Folder folder) {
        return connections.sources(connection.id()).stream()
                .filter(s -> s.name().equals(folder.name()))
                .findFirst();
    }

    private void readNew(Mailbox mailbox, Folder folder, Place place, Extent extent, String cursorText) {
        MailCursor cursor = MailCursor.of(cursorText);
        long first = cursor.validity() == extent.validity() ? cursor.next() : 1;
        // a day earlier: the server compares days in a zone of its own
        LocalDate since = place.since().atOffset(ZoneOffset.UTC).toLocalDate().minusDays(1);
        long[] uids = mailbox.uids(folder.name(), first, since);
        String from = cursorText;
        try (Ahead<ParsedBatch> batches = new Ahead<>(
                batches(uids).iterator(),
                b -> fetch(mailbox, folder, b),
                (uidBatch, m) ->
                        new ParsedBatch(uidBatch.get(uidBatch.size() - 1), parsed(m, place, extent.validity())))) {
            for (ParsedBatch batch = batches.next(); batch != null; batch = batches.next()) {
                String to = new MailCursor(extent.validity(), batch.lastUid() + 1).toString();
                intake.take(place, batch.seen(), List.of(), new CursorMove(place.source(), from, to, null));
                from = to;
            }
        }
        String end = new MailCursor(
                        extent.validity(),
                        Math.max(extent.next(), MailCursor.of(from).next()))
                .toString();
        if (!end.equals(from)) {
            intake.take(place, List.of(), List.of(), new CursorMove(place.source(), from, end, null));
        }
    }

    private record ParsedBatch(long lastUid, List<Seen> seen) {}

    private static List<Message> fetch(Mailbox mailbox, Folder folder, List<Long> uids) {
        return mailbox.fetch(folder.name(), uids);
    }

    private static List<List<Long>> batches(long[] uids) {
        List<List<Long>> batches = new ArrayList<>();
        for (int from = 0; from < uids.length; from += BATCH) {
            List<Long> batch = new ArrayList<>(BATCH);
            for (int i = from; i < Math.min(uids.length, from + BATCH); i++) {
                batch.add(uids[i]);
            }
            batches.add(batch);
        }
        return batches;
    }

    private List<Seen> parsed(List<Message> messages, Place place, long validity) {
        List<Seen> seen = new ArrayList<>(messages.size());
        for (Message message : messages) {
            String position = MailCursor.position(validity, message.uid());
            ReadMail mail = reader.read(message.bytes(), message.received(), place.source() + "/" + position);
            seen.add(new Seen(position, mail.item(), () -> content(mail, message)));
        }
        return seen;
    }

    private static Content content(ReadMail mail, Message message) {
        Content read = mail.content();
        return message.attachments() == null ? read : new Content(read.text(), read.html(), message.attachments());
    }

    /** Items for a rehearsal, by position; nothing of them is kept. */
    Map<String, Item> items(Mailbox mailbox, Source source, List<String> wanted) {
        long validity = mailbox.extent(source.name()).validity();
        Place place = new Place(source.id(), NOBODY, Instant.EPOCH);
        List<Long> uids = wanted.stream()
                .map(MailCursor::of)
                .filter(p -> p.validity() == validity)
                .map(MailCursor::next)
                .toList();
        Map<String, Item> items = new HashMap<>();
        for (int from = 0; from < uids.size(); from += BATCH) {
            parsed(
                            mailbox.fetch(source.name(), uids.subList(from, Math.min(uids.size(), from + BATCH))),
                            place,
                            validity)
                    .forEach(s -> items.put(s.position(), s.item()));
        }
        return items;
    }

    private void forgetOldNumbers(Place place, long validity) {
        List<String> old = positions.all(place.source()).stream()
                .filter(p -> MailCursor.of(p).validity() != validity)
                .toList();
        for (int from = 0; from < old.size(); from += BATCH) {
            positions.forget(place.source(), old.subList(from, Math.min(old.size(), from + BATCH)));
        }
    }

    private void readAgain(Mailbox mailbox, Folder folder, Place place, long validity) {
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
            List<Seen> seen = parsed(mailbox.fetch(folder.name(), uids), place, validity);
            intake.take(place, seen, List.of(), null);
            seen.forEach(s -> missing.remove(s.position()));
            if (!missing.isEmpty()) {
                positions.cannotRefetch(place.source(), missing);
            }
        }
    }
}
