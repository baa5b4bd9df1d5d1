package jandrel.store.timeline;

import static jandrel.store.capture.Scene.NOON;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Content;
import jandrel.core.item.Inside;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.Sketch;
import jandrel.core.item.ThreadHeaders;
import jandrel.core.search.InvalidSearch;
import jandrel.core.search.SearchQuery;
import jandrel.core.visibility.Viewer;
import jandrel.store.StoreContext;
import jandrel.store.kernel.PageCursor;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;

/** Searches what a test has captured; all of it is indexed first. */
public final class Finding {
    private Finding() {}

    public static Search.Page found(StoreContext store, String typed, Viewer viewer) {
        return found(store, typed, viewer, PageCursor.TOP, 200);
    }

    static Search.Page found(StoreContext store, String typed, Viewer viewer, PageCursor before, int limit) {
        indexed(store);
        try {
            return store.get(Search.class).page(SearchQuery.parse(typed), ZoneOffset.UTC, viewer, before, limit);
        } catch (InvalidSearch invalid) {
            throw new IllegalArgumentException(typed, invalid);
        }
    }

    static Content text(String text) {
        return new Content(text, "", List.of());
    }

    static MailItem mail(String id, int day, String subject, String from, String name, String to) {
        return new MailItem(
                        "mail:" + id,
                        NOON.plus(day, ChronoUnit.DAYS),
                        true,
                        List.of(
                                new Party(Part.FROM, EmailAddress.of(from), name),
                                new Party(Part.TO, EmailAddress.of(to), "")),
                        subject,
                        Nature.ORDINARY,
                        List.of(),
                        new ThreadHeaders(id, List.of(), false),
                        Inside.NOTHING)
                .saying(Sketch.of(subject));
    }

    static MeetingItem meeting(
            String uid, int day, String title, String organiser, String guest, MeetingItem.Privacy privacy) {
        return new MeetingItem(
                "meeting:" + uid,
                uid,
                null,
                NOON.plus(day, ChronoUnit.DAYS),
                NOON.plus(day, ChronoUnit.DAYS).plusSeconds(3_600),
                false,
                "UTC",
                List.of(
                        new Party(Part.ORGANISER, EmailAddress.of(organiser), ""),
                        new Party(Part.ACCEPTED, EmailAddress.of(guest), "")),
                title,
                "",
                "",
                privacy,
                MeetingItem.State.PLANNED,
                0,
                0,
                List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
    }

    /** What a message quotes begins with a line of dashes here. */
    static void indexed(StoreContext store) {
        SearchIndex index = store.get(SearchIndex.class);
        while (index.next(text -> text.replace("\r\n", "\n").split("\n---", 2)[0]) > 0) {
            // the next batch
        }
    }
}
