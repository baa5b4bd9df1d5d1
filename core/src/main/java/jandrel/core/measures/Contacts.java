package jandrel.core.measures;

import jandrel.core.measures.ContactDay.Account;
import jandrel.core.measures.ContactDay.What;
import jandrel.core.measures.Sheet.Behind;
import jandrel.core.visibility.Readers;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** Mail and meetings of some days, as far as one viewer may know of them at one moment. Each has a position, from 0 on. */
public final class Contacts {
    private final List<ContactDay> days;
    private final int[] begins;
    private final Set<UUID> viewer;
    private final boolean readsWhatEverybodyDoes;
    private final long now;

    /** @param what null where the viewer may not know */
    public record Dated(Instant at, @Nullable What what) {}

    public Contacts(List<ContactDay> days, Viewer viewer, Instant now) {
        this.days = List.copyOf(days);
        this.viewer = viewer.ids();
        this.now = ContactDay.micros(now);
        readsWhatEverybodyDoes = Visibility.of(viewer, Readers.EVERYONE) == Visibility.FULL;
        begins = new int[days.size()];
        int size = 0;
        for (int d = 0; d < begins.length; d++) {
            begins[d] = size;
            size = Math.addExact(size, days.get(d).size());
        }
    }

    /** Goes through all that the viewer gets. */
    void each(Visit visit) {
        for (int d = 0; d < begins.length; d++) {
            ContactDay day = days.get(d);
            for (int i = 0; i < day.size(); i++) {
                if (day.isFor(i, viewer)) {
                    visit.one(day, i, begins[d] + i);
                }
            }
        }
    }

    @FunctionalInterface
    interface Visit {
        /** @param i its place in its day */
        void one(ContactDay day, int i, int position);
    }

    /** Null where the viewer may not know. */
    @Nullable
    What what(ContactDay day, int i) {
        return readsWhatEverybodyDoes && day.isReadBy(i, viewer) ? day.what(i, now) : null;
    }

    /**
     * Their accounts that were not seen before.
     *
     * @param positions in order, the first so many of them
     * @param seen the numbers of accounts; gets those that were not in it
     */
    void eachAccount(int[] positions, int size, BitSet seen, Consumer<Account> each) {
        int d = 0;
        for (int n = 0; n < size; n++) {
            while (d + 1 < begins.length && begins[d + 1] <= positions[n]) {
                d++;
            }
            ContactDay day = days.get(d);
            int i = positions[n] - begins[d];
            int only = day.onlyAccount(i);
            if (only == ContactDay.SEVERAL || !seen.get(only)) {
                for (Account account : day.accounts(i)) {
                    if (!seen.get(account.number())) {
                        seen.set(account.number());
                        each.accept(account);
                    }
                }
            }
        }
    }

    Behind behind(int position) {
        int d = day(position);
        ContactDay day = days.get(d);
        return new Behind(day.activity(position - begins[d]), day.record(position - begins[d]));
    }

    /** On the timeline of a certain account of its own. */
    Behind behind(int position, UUID account) {
        return new Behind(behind(position).meeting(), account);
    }

    /** The last that does not begin after it: days without any begin where the next one does. */
    private int day(int position) {
        int found = Arrays.binarySearch(begins, position);
        if (found < 0) {
            return -found - 2;
        }
        while (found + 1 < begins.length && begins[found + 1] == position) {
            found++;
        }
        return found;
    }

    /** When these were, and what. */
    public Map<Behind, Dated> dated(Set<Behind> some) {
        Set<UUID> wanted = new HashSet<>();
        some.forEach(b -> {
            if (b.meeting() != null) {
                wanted.add(b.meeting());
            }
        });
        Map<UUID, Dated> found = new HashMap<>();
        each((day, i, position) -> {
            UUID activity = day.activity(i);
            if (wanted.contains(activity)) {
                found.putIfAbsent(activity, new Dated(Instant.EPOCH.plus(day.at(i), ChronoUnit.MICROS), what(day, i)));
            }
        });
        Map<Behind, Dated> dated = new HashMap<>();
        some.forEach(b -> {
            Dated when = b.meeting() == null ? null : found.get(b.meeting());
            if (when != null) {
                dated.put(b, when);
            }
        });
        return dated;
    }
}
