package jandrel.store.directory;

import jandrel.core.decide.Reopened;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Two records that are one, and what undoes it. No file brings back the one that went. */
@Component
public class Merging {
    /** A merge that cannot be undone as things are, with what to do, in words. */
    public static final class NoWayBack extends RuntimeException {
        private static final long serialVersionUID = 1;

        NoWayBack(String why) {
            super(why);
        }
    }

    /** Of two of these, one can be made. */
    public static final Set<String> KINDS = Set.of("contact", "account", "lead");

    private final Map<String, MergeRows> rows;
    private final ContactMergeRows contacts;
    private final AccountMergeRows accounts;
    private final PinMergeRows pins;
    private final DirectoryMapper directory;
    private final Reopener reopened;
    private final RulesLock rules;

    Merging(
            ContactMergeRows contacts,
            AccountMergeRows accounts,
            LeadMergeRows leads,
            PinMergeRows pins,
            DirectoryMapper directory,
            Reopener reopened,
            RulesLock rules) {
        this.rows = Map.of("contact", contacts, "account", accounts, "lead", leads);
        this.contacts = contacts;
        this.accounts = accounts;
        this.pins = pins;
        this.directory = directory;
        this.reopened = reopened;
        this.rules = rules;
    }

    /**
     * Makes one record of two: the one that stays gets what the other has, and what is pinned to it.
     *
     * @param kind one of {@link #KINDS}, that of both
     * @return what it takes to undo it, in words of the database
     */
    @Transactional
    public String merge(String kind, UUID stays, UUID goes) {
        rules.change();
        MergeRows of = of(kind);
        Set<String> touched = new HashSet<>(of.keysOf(new UUID[] {stays, goes}));
        String before = pins.written(stays, goes, of.written(stays, goes));
        of.passOn(stays, goes);
        of.remember(stays, goes);
        List<UUID> pinned = pins.passOn(stays, goes);
        of.remove(goes);
        if (of == contacts) {
            contacts.cardsPending(new UUID[] {stays});
        }
        mark(touched, pinned);
        return before;
    }

    /**
     * Makes two of one again. What each was given since, it keeps.
     *
     * @param before what the merge gave
     * @throws NoWayBack if something else was changed since that has to be undone first
     */
    @Transactional
    public void split(String kind, UUID stays, String before) {
        rules.change();
        MergeRows of = of(kind);
        if (of.meant(before).filter(now -> !now.equals(stays)).isPresent()) {
            throw new NoWayBack("The " + kind + " that stayed was merged into another since. Undo that first.");
        }
        Set<String> touched = new HashSet<>(of.keysOf(new UUID[] {stays}));
        pins.takeBack(stays, before);
        of.restore(stays, before);
        Set<UUID> pinned = new LinkedHashSet<>(pins.restore(before));
        if (of == contacts) {
            contacts.cardsPending(new UUID[] {stays});
        }
        if (of == accounts
                && directory.partOfItself(new UUID[] {accounts.went(before)}).isPresent()) {
            throw new NoWayBack("An account would be a part of itself: what is part of what was changed since.");
        }
        mark(touched, pinned);
    }

    private MergeRows of(String kind) {
        MergeRows of = rows.get(kind);
        if (of == null) {
            throw new IllegalArgumentException("nothing is merged of a " + kind);
        }
        return of;
    }

    private void mark(Set<String> touched, Iterable<UUID> pinned) {
        List<Reopened> all = new ArrayList<>(Reopened.records(touched));
        pinned.forEach(item -> all.addAll(Reopened.pinned(item)));
        reopened.mark(all);
    }
}
