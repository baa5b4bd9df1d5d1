package jandrel.core.search;

import java.util.HashMap;
import java.util.Map;

/** How well something fits what was looked for. */
public final class Relevance {
    private static final double IN_SUBJECT = 3;
    private static final double LONG_TEXT = 1_000;

    private Relevance() {}

    /**
     * What stands in the subject counts for more than what stands in the text, each further time a word stands there for less, and the
     * same in a short text for more than in a long one.
     *
     * @return 0 or more
     */
    public static double of(String subject, String text, Sought sought) {
        return IN_SUBJECT * weight(subject, sought)
                + weight(text, sought) / (1 + Math.log1p(text.length() / LONG_TEXT));
    }

    private static double weight(String text, Sought sought) {
        Map<String, Integer> times = new HashMap<>();
        sought.in(text).forEach(word -> times.merge(word.folded(), 1, Integer::sum));
        return times.values().stream().mapToDouble(n -> 1 + Math.log(n)).sum();
    }
}
