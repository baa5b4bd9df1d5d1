package jandrel.store.directory;

import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.RecordKind;
import jandrel.core.journal.Entry.Thing;
import jandrel.store.directory.ImportChanges.Changed;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.RulesLock;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Undoes what a file from elsewhere brought, as a whole: what came with it goes, and what it changed is as before. What somebody changed
 * since stays as it is, and is named.
 */
@Component
public class ImportUndo {
    /** For how long a file can be undone. */
    public static final Duration KEPT = Duration.ofDays(30);

    /** @param why in words */
    public record Left(UUID record, String name, String why) {}

    /**
     * What became of the records of a file.
     *
     * @param removed that came with it
     * @param archived that came with it, and stand in address books
     * @param restored that it changed
     * @param left as they are
     */
    public record Undone(int removed, int archived, int restored, List<Left> left) {}

    private final Directory directory;
    private final Amending amending;
    private final DirectoryVersions versions;
    private final ImportChanges changes;
    private final RulesLock rules;
    private final Journal journal;
    private final Clock clock;

    ImportUndo(
            Directory directory,
            Amending amending,
            DirectoryVersions versions,
            ImportChanges changes,
            RulesLock rules,
            Journal journal,
            Clock clock) {
        this.directory = directory;
        this.amending = amending;
        this.versions = versions;
        this.changes = changes;
        this.rules = rules;
        this.journal = journal;
        this.clock = clock;
    }

    /** Before anything of a file is taken, in the same transaction; taking it adds what it changes. */
    @Transactional
    public void begin(UUID file, RecordKind kind, String name, String by) {
        changes.begin(file, kind, name, by, clock.instant());
    }

    /** What those hold that cannot be undone any more. */
    @Transactional
    public void forget(Instant now) {
        changes.forget(now.minus(KEPT));
    }

    /** Those that can be undone, and those that were; the newest first. */
    @Transactional(readOnly = true)
    public List<ImportTaken> newest(int most) {
        return changes.newest(clock.instant().minus(KEPT), most);
    }

    /**
     * Undoes one.
     *
     * @return empty if there is none, or it is undone
     * @throws ImportRejected if what was before does not fit any more
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public Optional<Undone> undo(UUID file, String by) throws ImportRejected {
        rules.change();
        Instant since = clock.instant().minus(KEPT);
        ImportTaken taken = changes.locked(file)
                .filter(t -> t.undoneAt() == null && t.at().isAfter(since))
                .orElse(null);
        if (taken == null) {
            return Optional.empty();
        }
        RecordKind kind = taken.kind();
        Undone undone = undo(file, kind);
        changes.undone(file, clock.instant(), by);
        journal.add(
                by,
                "import undone",
                new Thing("directory", kind.plural(), kind.plural()),
                null,
                Map.of(
                        "file", taken.name(),
                        "removed", undone.removed(),
                        "archived", undone.archived(),
                        "as before", undone.restored(),
                        "left as they are", undone.left().size()));
        return Optional.of(undone);
    }

    private Undone undo(UUID file, RecordKind kind) throws ImportRejected {
        versions.locked(kind, array(changes.records(file)));
        List<Left> left = new ArrayList<>();
        List<Changed> removing = new ArrayList<>();
        List<Changed> restoring = new ArrayList<>();
        for (Changed one : changes.changed(kind, file)) {
            if (one.now() == null) {
                left.add(new Left(one.record(), one.name(), "it is not there any more"));
            } else if (one.now() != one.version()) {
                left.add(new Left(one.record(), one.name(), "it was changed since"));
            } else {
                (one.added() ? removing : restoring).add(one);
            }
        }
        boolean fewer = true;
        while (fewer) {
            // what stays may be in the way of others
            UUID[] all = array(Stream.concat(removing.stream(), restoring.stream())
                    .map(Changed::record)
                    .toList());
            fewer = butFor(removing, left, "something else belongs to it by now", changes.used(ids(removing), all))
                    || butFor(
                            restoring,
                            left,
                            "a domain that it had is another account’s now",
                            changes.withoutDomains(file, ids(restoring), all));
        }
        Set<UUID> inBooks = new HashSet<>(kind == RecordKind.CONTACT ? changes.inBooks(ids(removing)) : List.of());
        UUID[] archiving = array(inBooks);
        removing.removeIf(one -> inBooks.contains(one.record()));
        // first what came, so that what it took is free for those who had it before
        remove(kind, removing);
        versions.archive(kind, archiving, true);
        directory.of(kind).restore(changes, file, ids(restoring));
        changes.asLeft(kind, file, ids(restoring));
        return new Undone(removing.size(), archiving.length, restoring.size(), List.copyOf(left));
    }

    /** Leaves those as they are that cannot be undone, and says whether there were any. */
    private static boolean butFor(List<Changed> these, List<Left> left, String why, List<UUID> cannot) {
        Set<UUID> not = Set.copyOf(cannot);
        these.stream()
                .filter(one -> not.contains(one.record()))
                .forEach(one -> left.add(new Left(one.record(), one.name(), why)));
        return these.removeIf(one -> not.contains(one.record()));
    }

    private void remove(RecordKind kind, List<Changed> these) {
        if (kind == RecordKind.ACCOUNT) {
            changes.partOfNothing(ids(these));
        }
        List<String> keys = these.stream().map(Changed::key).toList();
        Function<RecordKind, List<String>> of = each -> each == kind ? keys : List.of();
        amending.remove(
                of.apply(RecordKind.CONTACT),
                of.apply(RecordKind.LEAD),
                of.apply(RecordKind.ACCOUNT),
                of.apply(RecordKind.OPPORTUNITY));
    }

    private static UUID[] ids(List<Changed> these) {
        return these.stream().map(Changed::record).toArray(UUID[]::new);
    }

    private static UUID[] array(Collection<UUID> ids) {
        return ids.toArray(UUID[]::new);
    }
}
