package jandrel.service.capture;

import jandrel.core.decide.ManualOverride;
import jandrel.sources.Mailbox;
import jandrel.sources.Mailbox.Extent;
import jandrel.sources.Mailbox.Folder;
import jandrel.sources.Mailbox.Run;
import jandrel.store.capture.CursorMove;
import jandrel.store.capture.FetchedItem;
import jandrel.store.capture.Intake;
import jandrel.store.capture.Positions;
import jandrel.store.capture.Positions.Chosen;
import jandrel.store.capture.Positions.KeywordChange;
import jandrel.store.capture.SourceRef;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.LongStream;
import org.springframework.stereotype.Component;

/**
 * Compares what is known of a folder with what it shows: what has gone, and what its owner chose by hand. A server that counts
 * changes (RFC 7162) is asked only after one, another one whenever its number of messages does not fit.
 */
@Component
class FolderReconciler {
    private static final int PAGE = 2_000;
    private static final int BATCH = 250;
    private final Intake intake;
    private final Positions positions;

    FolderReconciler(Intake intake, Positions positions) {
        this.intake = intake;
        this.positions = positions;
    }

    /**
     * @param now the cursor as it stands
     * @param before the cursor as the look found it
     */
    void over(
            Mailbox mailbox,
            Folder folder,
            FolderReading reading,
            String now,
            MailCursor before,
            Function<List<Long>, List<FetchedItem>> fetch) {
        Extent extent = reading.extent();
        MailCursor cursor = MailCursor.of(now);
        boolean first = before.validity() != extent.validity();
        boolean changed = extent.changes() == 0 || extent.changes() != before.changes();
        if (!first && changed) {
            gone(mailbox, folder, reading, before);
        }
        if (changed && (reading.choices().any() || before.messages() < 0)) {
            hands(mailbox, folder, reading, fetch);
        }
        MailCursor compared = cursor.compared(extent.messages(), extent.changes());
        if (!compared.toString().equals(now)) {
            intake.take(
                    reading.place(),
                    List.of(),
                    List.of(),
                    new CursorMove(reading.place().source(), now, compared.toString(), null));
        }
    }

    private void gone(Mailbox mailbox, Folder folder, FolderReading reading, MailCursor before) {
        Extent extent = reading.extent();
        if (extent.changes() > 0 && before.changes() > 0) {
            Optional<List<Run>> gone = mailbox.goneSince(folder.name(), extent.validity(), before.changes());
            long some = gone.map(runs -> runs.stream()
                            .mapToLong(r -> r.last() - r.first() + 1)
                            .sum())
                    .orElse(Long.MAX_VALUE);
            if (some <= PAGE) {
                take(
                        reading,
                        gone.orElseThrow().stream()
                                .flatMapToLong(r -> LongStream.rangeClosed(r.first(), r.last()))
                                .boxed()
                                .toList());
                return;
            }
        }
        long arrived = mailbox.count(folder.name(), before.next(), extent.next() - 1);
        if (before.messages() < 0 || before.messages() + arrived != extent.messages()) {
            walk(mailbox, folder, reading);
        }
    }

    /** Asks for all that is known, page by page. */
    private void walk(Mailbox mailbox, Folder folder, FolderReading reading) {
        String beginning = reading.extent().validity() + "/";
        String last = "";
        for (List<String> page = positions.page(reading.place().source(), beginning, last, PAGE);
                !page.isEmpty();
                page = positions.page(reading.place().source(), beginning, last, PAGE)) {
            last = page.get(page.size() - 1);
            List<Long> uids = page.stream().map(p -> MailCursor.of(p).next()).toList();
            Set<Long> there = mailbox.existing(folder.name(), uids);
            take(reading, uids.stream().filter(u -> !there.contains(u)).toList());
        }
    }

    private void take(FolderReading reading, List<Long> gone) {
        for (int from = 0; from < gone.size(); from += BATCH) {
            List<String> batch = gone.subList(from, Math.min(gone.size(), from + BATCH)).stream()
                    .map(uid -> MailCursor.position(reading.extent().validity(), uid))
                    .toList();
            intake.take(reading.place(), List.of(), batch, null);
        }
    }

    private void hands(
            Mailbox mailbox, Folder folder, FolderReading reading, Function<List<Long>, List<FetchedItem>> fetch) {
        Choices choices = reading.choices();
        Map<Long, ManualOverride> wanted = new HashMap<>();
        for (String keyword : List.of(choices.count(), choices.keepOut())) {
            if (!keyword.isEmpty()) {
                mailbox.withKeyword(folder.name(), keyword)
                        .forEach(uid -> wanted.merge(uid, choices.of(Set.of(keyword)), (a, b) -> b));
            }
        }
        Set<Long> again = new HashSet<>();
        Map<Long, ManualOverride> known = new HashMap<>();
        for (Chosen chosen : positions.chosen(reading.place().source())) {
            MailCursor at = MailCursor.of(chosen.position());
            if (at.validity() == reading.extent().validity()) {
                known.put(at.next(), chosen.hand());
            }
        }
        wanted.forEach((uid, hand) -> {
            if (!hand.equals(known.get(uid))) {
                again.add(uid);
            }
        });
        known.keySet().stream().filter(uid -> !wanted.containsKey(uid)).forEach(again::add);
        List<Long> all = again.stream().sorted().toList();
        for (int from = 0; from < all.size(); from += BATCH) {
            intake.take(
                    reading.place(),
                    fetch.apply(all.subList(from, Math.min(all.size(), from + BATCH))),
                    List.of(),
                    null);
        }
    }

    /** Sets the keywords of what is logged as the policy has them, and takes away those that it had. */
    void setKeywords(Mailbox mailbox, Folder folder, FolderReading reading) {
        SourceRef place = reading.place();
        // a number of another numbering is somebody else's message by now
        List<KeywordChange> due = positions.keywordChanges(place.source(), PAGE).stream()
                .filter(o -> MailCursor.of(o.position()).validity()
                        == reading.extent().validity())
                .toList();
        if (due.isEmpty()) {
            return;
        }
        Set<String> earlier = new HashSet<>(positions.keywordsEver());
        // what a person chose says something else
        earlier.removeIf(k -> k.equalsIgnoreCase(reading.choices().count())
                || k.equalsIgnoreCase(reading.choices().keepOut()));
        for (boolean carries : List.of(true, false)) {
            Map<String, List<KeywordChange>> byKeyword = new HashMap<>();
            due.stream()
                    .filter(o -> o.logged() == carries)
                    .forEach(o -> byKeyword
                            .computeIfAbsent(o.keyword(), k -> new ArrayList<>())
                            .add(o));
            byKeyword.forEach((keyword, some) -> {
                List<Long> uids = some.stream()
                        .map(o -> MailCursor.of(o.position()).next())
                        .toList();
                earlier.stream()
                        .filter(k -> !k.equals(keyword))
                        .forEach(k -> mailbox.keyword(folder.name(), uids, k, false));
                if (!keyword.isEmpty()) {
                    mailbox.keyword(folder.name(), uids, keyword, carries);
                }
                positions.keywordsSet(some);
            });
        }
    }
}
