package jandrel.sources;

import jandrel.sources.Mailbox.Run;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.LongStream;
import org.eclipse.angus.mail.iap.Response;

/** Numbers of messages, as IMAP writes and tells them. */
final class UidSets {
    private UidSets() {}

    /** A set of numbers as IMAP writes it, with runs as ranges (RFC 3501 §9, sequence-set). */
    static String text(Collection<Long> uids) {
        StringBuilder set = new StringBuilder();
        long from = -1;
        long to = -2;
        for (long uid : new TreeSet<>(uids)) {
            if (uid != to + 1) {
                append(set, from, to);
                from = uid;
            }
            to = uid;
        }
        append(set, from, to);
        return set.toString();
    }

    private static void append(StringBuilder set, long from, long to) {
        if (from >= 0) {
            set.append(set.isEmpty() ? "" : ",").append(from).append(to > from ? ":" + to : "");
        }
    }

    /** Adds what is one after another as one. */
    static void runs(long[] uids, List<Run> into) {
        long[] sorted = uids.clone();
        Arrays.sort(sorted);
        int begin = 0;
        for (int i = 1; i <= sorted.length; i++) {
            if (i == sorted.length || sorted[i] != sorted[i - 1] + 1) {
                into.add(new Run(sorted[begin], sorted[i - 1]));
                begin = i;
            }
        }
    }

    /** Those that a search found (RFC 3501 §7.2.5). */
    static LongStream numbers(Response search) {
        LongStream.Builder numbers = LongStream.builder();
        for (long n = search.readLong(); n != -1; n = search.readLong()) {
            numbers.add(n);
        }
        return numbers.build();
    }
}
