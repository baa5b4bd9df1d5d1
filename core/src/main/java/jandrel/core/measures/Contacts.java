package jandrel.core.measures;

import jandrel.core.measures.ContactHour.Account;
import jandrel.core.measures.ContactHour.What;
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
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** Mail and meetings of some time, as far as one viewer may know of them at one moment. Each has a position, from 0 on. */
public final class Contacts {
    private final List<ContactHour> hours;
    private final int[] begins;
    /** Of each position the number of its account if it has exactly one. */
    private final int[] only;

    private final Set<UUID> viewer;
    private final Predicate<Readers> reads;
    private final long now;

    /** @param what null where the viewer may not know */
    public record Dated(Instant at, @Nullable What what) {}

    public Contacts(List<ContactHour> hours, Viewer viewer, Instant now) {
        this.hours = List.copyOf(hours);
        this.viewer = viewer.ids();
        this.now = ContactHour.micros(now);
        reads = Visibility.full(viewer);
        begins = new int[hours.size()];
        int size = 0;
        for (int d = 0; d < begins.length; d++) {
            begins[d] = size;
            size = Math.addExact(size, hours.get(d).size());
        }
        only = new int[size];
        for (int d = 0; d < begins.length; d++) {
            hours.get(d).onlyAccounts(only, begins[d]);
        }
    }

    /** Goes through all that the viewer gets. */
    void each(Visit visit) {
        for (int d = 0; d < begins.length; d++) {
            ContactHour hour = hours.get(d);
            for (int i = 0; i < hour.size(); i++) {
                if (hour.isFor(i, viewer)) {
                    visit.one(hour, i, begins[d] + i);
                }
            }
        }
    }

    @FunctionalInterface
    interface Visit {
        /** @param i its place in its hour */
        void one(ContactHour hour, int i, int position);
    }

    /** Null where the viewer may not know. */
    @Nullable
    What what(ContactHour hour, int i) {
        return reads.test(hour.readers(i)) ? hour.what(i, now) : null;
    }

    /**
     * Their accounts that were not seen before.
     *
     * @param positions in order, the first so many of them
     * @param seen the numbers of accounts; gets those that were not in it
     */
    void eachAccount(int[] positions, int size, BitSet seen, AccountAt each) {
        for (int n = 0; n < size; n++) {
            int position = positions[n];
            // most have one: what it is need not be looked up to count it
            if (only[position] == ContactHour.SEVERAL) {
                for (Account account : accounts(position)) {
                    add(account.number(), position, seen, each);
                }
            } else {
                add(only[position], position, seen, each);
            }
        }
    }

    private static void add(int number, int position, BitSet seen, AccountAt each) {
        if (!seen.get(number)) {
            seen.set(number);
            each.one(number, position);
        }
    }

    private List<Account> accounts(int position) {
        int d = hour(position);
        return hours.get(d).accounts(position - begins[d]);
    }

    @FunctionalInterface
    interface AccountAt {
        /** @param position of one that is with it */
        void one(int number, int position);
    }

    /** An account, by its number and the position of one that is with it. */
    UUID account(int number, int position) {
        return accounts(position).stream()
                .filter(a -> a.number() == number)
                .findFirst()
                .orElseThrow()
                .id();
    }

    Behind behind(int position) {
        int d = hour(position);
        ContactHour hour = hours.get(d);
        return new Behind(hour.activity(position - begins[d]), hour.record(position - begins[d]));
    }

    /** On the timeline of a certain account of its own. */
    Behind behind(int position, UUID account) {
        return new Behind(behind(position).meeting(), account);
    }

    /** The last that does not begin after it: hours without any begin where the next one does. */
    private int hour(int position) {
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
        each((hour, i, position) -> {
            UUID activity = hour.activity(i);
            if (wanted.contains(activity)) {
                found.putIfAbsent(
                        activity, new Dated(Instant.EPOCH.plus(hour.at(i), ChronoUnit.MICROS), what(hour, i)));
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
