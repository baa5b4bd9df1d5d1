package jandrel.sources;

import java.time.Duration;

/**
 * How long a server is waited for.
 *
 * @param answer until its answer begins: it may work it all out first
 * @param quiet while nothing more of an answer comes that has begun
 * @param whole for all of an answer
 */
public record Patience(Duration answer, Duration quiet, Duration whole) {
    private static final Duration LONGEST_QUIET = Duration.ofSeconds(20);
    private static final int WHOLE = 5;
    public static final Patience USUAL = of(Duration.ofSeconds(60));

    /** What follows from how long an answer may take to begin. */
    public static Patience of(Duration answer) {
        Duration quiet = answer.compareTo(LONGEST_QUIET) < 0 ? answer : LONGEST_QUIET;
        return new Patience(answer, quiet, answer.multipliedBy(WHOLE));
    }
}
