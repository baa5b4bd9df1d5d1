package jandrel.service.capture;

import jandrel.core.decide.ManualOverride;
import jandrel.core.item.Content;
import jandrel.formats.calendar.Reply;
import jandrel.formats.mail.MailLimits;
import jandrel.formats.mail.MailReader;
import jandrel.formats.mail.Phones;
import jandrel.formats.mail.ReadMail;
import jandrel.service.connections.HandedMailbox;
import jandrel.sources.Mailbox;
import jandrel.sources.Mailbox.Folder;
import jandrel.sources.Mailbox.Message;
import jandrel.store.capture.CursorMove;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Intake.Prepared;
import jandrel.store.capture.Lateness;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.LongFunction;
import org.springframework.stereotype.Component;

/** Fetches messages, reads them and hands them to be decided, in lots bounded by number and by bytes. */
@Component
class MailLots {
    static final int LARGEST = 500;
    private static final long MOST_BYTES = 8L * 1024 * 1024;
    private static final long USUAL_BYTES = 16L * 1024;
    private final Intake intake;
    private final ReplySink replies;
    private final Phones phones;
    private final Lateness lateness;
    private final MailReader reader = new MailReader(MailLimits.USUAL);

    MailLots(Intake intake, ReplySink replies, Phones phones, Lateness lateness) {
        this.intake = intake;
        this.replies = replies;
        this.phones = phones;
        this.lateness = lateness;
    }

    private record Lot(long lastUid, Prepared prepared, List<Reply> replies, List<Instant> arrivals) {}

    private record Parsed(List<FetchedItem> seen, List<Reply> replies) {}

    /**
     * @param uids in the order in which they are wanted
     * @param most in a lot
     * @param arrive whether they came in now: then it counts how late they are
     * @param move how the cursor moves with a lot, by the UID that is last in it
     */
    void read(
            Mailbox mailbox,
            Folder folder,
            FolderReading reading,
            long[] uids,
            int most,
            boolean arrive,
            LongFunction<CursorMove> move) {
        // few are no danger, however long they are
        Map<Long, Long> sizes = uids.length > MOST_BYTES / Mailbox.LONGEST
                ? mailbox.sizes(folder.name(), Arrays.stream(uids).boxed().toList())
                : Map.of();
        try (Prefetch<Long, Lot> lots = new Prefetch<>(
                lots(uids, sizes, most).iterator(),
                b -> weight(b, sizes),
                b -> mailbox.fetch(folder.name(), b),
                (some, messages) -> lot(some.get(some.size() - 1), messages, reading))) {
            for (Lot lot = lots.next(); lot != null; lot = lots.next()) {
                // before the cursor moves past them
                lot.replies().forEach(reply -> replies.take(reading.place().person(), reply));
                intake.takePrepared(reading.place(), lot.prepared(), move.apply(lot.lastUid()));
                if (arrive) {
                    lateness.arrived(lot.arrivals());
                }
            }
        }
    }

    /** Moves the cursor alone. */
    void move(FolderReading reading, CursorMove move) {
        intake.take(reading.place(), List.of(), List.of(), move);
    }

    private static List<List<Long>> lots(long[] uids, Map<Long, Long> sizes, int most) {
        List<List<Long>> lots = new ArrayList<>();
        List<Long> lot = new ArrayList<>(LARGEST);
        long bytes = 0;
        for (long uid : uids) {
            long size = weight(uid, sizes);
            if (lot.size() == most || bytes + size > MOST_BYTES) {
                lots.add(lot);
                lot = new ArrayList<>(LARGEST);
                bytes = 0;
            }
            lot.add(uid);
            bytes += size;
        }
        if (!lot.isEmpty()) {
            lots.add(lot);
        }
        return lots;
    }

    private static long weight(long uid, Map<Long, Long> sizes) {
        return Math.min(Mailbox.LONGEST, sizes.getOrDefault(uid, USUAL_BYTES));
    }

    private static long weight(List<Long> lot, Map<Long, Long> sizes) {
        return lot.stream().mapToLong(uid -> weight(uid, sizes)).sum();
    }

    List<FetchedItem> parsed(List<Message> messages, FolderReading reading) {
        return read(messages, reading).seen();
    }

    private Lot lot(long lastUid, List<Message> messages, FolderReading reading) {
        Parsed parsed = read(messages, reading);
        List<Instant> arrivals = messages.stream()
                .map(Message::received)
                .filter(Instant.EPOCH::isBefore)
                .toList();
        return new Lot(lastUid, intake.prepare(reading.place(), parsed.seen()), parsed.replies(), arrivals);
    }

    private Parsed read(List<Message> messages, FolderReading reading) {
        List<FetchedItem> seen = new ArrayList<>(messages.size());
        List<Reply> answers = new ArrayList<>(0);
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
            mail.reply().ifPresent(answers::add);
        }
        return new Parsed(seen, answers);
    }

    private static Content content(ReadMail mail, Message message) {
        Content read = mail.content();
        return message.attachments() == null ? read : new Content(read.text(), read.html(), message.attachments());
    }
}
