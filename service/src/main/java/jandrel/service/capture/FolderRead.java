package jandrel.service.capture;

import jandrel.sources.Mailbox;
import jandrel.sources.Mailbox.Extent;
import jandrel.sources.Mailbox.Folder;
import jandrel.store.capture.CursorMove;
import jandrel.store.connections.Connections.Source;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * What is new in one folder, read in slices: what arrived, rising; and at a first read what was there before, falling. After each slice
 * the cursor says what is left at both ends, so that whoever is stopped goes on there.
 */
final class FolderRead {
    /** Soon on timelines. */
    private static final int FIRST = 100;
    /** Small, so that reading and storing overlap. */
    private static final int FIRST_LOT = 50;
    /** Among how many numbers the newest are looked for first. */
    private static final int NEAR = 200;
    /** Few enough that what arrives meanwhile waits for seconds, and enough that fetching and storing overlap. */
    private static final int SLICE = 4_000;

    private static final Set<String> ARRIVE = Set.of("inbox", "sent");
    private static final long[] NONE = {};
    private final MailLots lots;
    private final Folder folder;
    private final Source source;
    private final MailCursor before;
    private FolderReading reading;
    /** As it is kept. */
    private String cursor;

    private MailCursor at;
    private long messages;
    private boolean begun;
    private boolean renumbered;
    /** What was there before and is still to be read, rising. */
    private long[] older = NONE;
    /** Whether that is all of it, and not the newest alone. */
    private boolean allKnown = true;

    FolderRead(MailLots lots, Folder folder, Source source, FolderReading reading) {
        this.lots = lots;
        this.folder = folder;
        this.source = source;
        this.reading = reading;
        this.cursor = source.cursor();
        this.before = MailCursor.of(cursor);
        this.at = before;
    }

    Folder folder() {
        return folder;
    }

    FolderReading reading() {
        return reading;
    }

    /** As the look found it. */
    MailCursor before() {
        return before;
    }

    /** As it stands. */
    String cursor() {
        return cursor;
    }

    /** Whether the server numbered it anew meanwhile: then nothing of what was asked before says anything. */
    boolean isRenumbered() {
        return renumbered;
    }

    long messages() {
        return messages;
    }

    /** @return whether anything is left */
    boolean slice(Mailbox mailbox) {
        if (begun) {
            reading = reading.as(mailbox.extent(folder.name()));
        }
        Extent extent = reading.extent();
        if (begun && at.validity() != extent.validity()) {
            // numbered anew while it is being read: the next look begins again
            renumbered = true;
            return false;
        }
        boolean first = !begun;
        begun = true;
        if (at.validity() != extent.validity()) {
            older = newest(mailbox, extent);
            // a server that counts too low would hide what it holds
            long top = older.length == 0 ? extent.next() : Math.max(extent.next(), older[older.length - 1] + 1);
            // kept with the first lot that is read
            at = MailCursor.first(extent.validity(), top, older.length > 0);
            if (older.length == 0) {
                to(at);
            }
        } else {
            readArrived(mailbox, extent);
            if (first && at.hasOlder()) {
                older = below(mailbox.uids(folder.name(), 1, since()), at.older());
            }
        }
        return readOlder(mailbox, first);
    }

    /** Without asking for all where the newest are enough to begin with: a server takes its time to look at the day of each. */
    private long[] newest(Mailbox mailbox, Extent extent) {
        long near = extent.next() - NEAR;
        long[] some = near > 1 ? mailbox.uids(folder.name(), near, since()) : NONE;
        allKnown = some.length < FIRST;
        return allKnown ? mailbox.uids(folder.name(), 1, since()) : some;
    }

    /** A day earlier: the server compares days in a zone of its own. */
    private LocalDate since() {
        return reading.place().since().atOffset(ZoneOffset.UTC).toLocalDate().minusDays(1);
    }

    private static long[] below(long[] uids, long end) {
        return Arrays.stream(uids).filter(uid -> uid < end).toArray();
    }

    private void readArrived(Mailbox mailbox, Extent extent) {
        if (at.next() >= extent.next()) {
            return;
        }
        long[] uids = mailbox.uids(folder.name(), at.next(), since());
        // what was only filed elsewhere did not arrive now
        boolean arrives = ARRIVE.contains(source.role());
        lots.read(mailbox, folder, reading, uids, MailLots.LARGEST, arrives, last -> moved(at.read(last + 1)));
        messages += uids.length;
        to(at.read(Math.max(extent.next(), at.next())));
    }

    /** @return whether some are left */
    private boolean readOlder(Mailbox mailbox, boolean first) {
        if (!at.hasOlder()) {
            return false;
        }
        if (!allKnown && !first) {
            older = below(mailbox.uids(folder.name(), 1, since()), at.older());
            allKnown = true;
        }
        int most = first ? FIRST : SLICE;
        int left = Math.max(0, older.length - most);
        long[] newestFirst = IntStream.range(left, older.length)
                .map(i -> older.length - 1 - (i - left))
                .mapToLong(i -> older[i])
                .toArray();
        lots.read(
                mailbox,
                folder,
                reading,
                newestFirst,
                first ? FIRST_LOT : MailLots.LARGEST,
                false,
                lowest -> moved(at.readBack(lowest)));
        messages += newestFirst.length;
        older = Arrays.copyOf(older, left);
        if (left == 0 && allKnown) {
            to(at.readBack(0));
        }
        return left > 0 || !allKnown;
    }

    private CursorMove moved(MailCursor to) {
        CursorMove move = new CursorMove(source.id(), cursor, to.toString(), null, left(to));
        cursor = to.toString();
        at = to;
        return move;
    }

    private int left(MailCursor to) {
        if (!to.hasOlder()) {
            return 0;
        }
        int found = Arrays.binarySearch(older, to.older());
        long known = found < 0 ? -found - 1 : found;
        // as long as only the newest are known, all that the folder holds counts
        return Math.toIntExact(
                known + (allKnown ? 0 : Math.max(0, reading.extent().messages() - older.length)));
    }

    private void to(MailCursor to) {
        if (!to.toString().equals(cursor)) {
            lots.move(reading, moved(to));
        }
    }
}
