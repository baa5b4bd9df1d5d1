package jandrel.core.triage;

import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;

/**
 * Somebody outside who is on items and on no record.
 *
 * @param name as it was seen most; may be empty
 * @param in messages that they wrote
 * @param out messages that ours wrote to them
 * @param beside messages of others that they are on
 * @param items all of these, and meetings
 * @param waiting of these, those that stand on no timeline
 * @param people how many of ours have to do with them
 * @param freeMail whether anybody can have an address at their domain
 * @param atAccount whether their domain is an account's
 * @param namesake whether a contact of the same name is known
 * @param sameNumber whether the telephone number in what they wrote is a contact's
 */
public record Stranger(
        String address,
        String domain,
        String name,
        long in,
        long out,
        long beside,
        long meetings,
        long items,
        long waiting,
        long people,
        Instant first,
        Instant last,
        boolean freeMail,
        boolean atAccount,
        boolean namesake,
        boolean sameNumber) {
    private static final double TWO_WAY = 40;
    private static final double MEETING = 25;
    private static final double AT_ACCOUNT = 20;
    private static final double NAMESAKE = 12;
    private static final double SAME_NUMBER = 20;
    private static final double OF_MANY = 6;
    private static final double EACH_DOUBLING = 4;
    private static final double IN_BULK = 45;
    private static final double FADES_BY_MONTH = 3;
    private static final long MANY = 5;

    public boolean isTwoWay() {
        return in > 0 && out > 0;
    }

    /** From 0, somebody who writes to a person, to 100, somebody who writes to many and is never answered. */
    public int bulk() {
        if (out > 0 || meetings > 0 || in == 0) {
            return 0;
        }
        double often = Math.min(1, in / 20.0);
        double wide = Math.min(1, people / 5.0);
        return (int) Math.round(100 * Math.max(often, wide) * (in >= MANY || people >= MANY ? 1 : 0.4));
    }

    /** The greater, the sooner somebody should look. Pure: {@code now} only lets what is long past fade. */
    double score(Instant now) {
        double score = isTwoWay() ? TWO_WAY : 0;
        score += meetings > 0 ? MEETING : 0;
        score += atAccount ? AT_ACCOUNT : 0;
        score += namesake ? NAMESAKE : 0;
        score += sameNumber ? SAME_NUMBER : 0;
        score += people > 1 ? OF_MANY : 0;
        score += EACH_DOUBLING * Math.log(1.0 + items) / Math.log(2);
        score -= IN_BULK * bulk() / 100;
        double months = Math.max(0, Duration.between(last, now).toDays()) / 30.0;
        return score - FADES_BY_MONTH * Math.min(months, 12);
    }

    /** Best first; where nothing tells them apart, by address. */
    public static List<Stranger> ranked(List<Stranger> all, Instant now) {
        return all.stream()
                .sorted(Comparator.comparingDouble((Stranger s) -> s.score(now))
                        .reversed()
                        .thenComparing(Stranger::address))
                .toList();
    }

    /**
     * What a record of them is called: the name as it was seen, else what the address suggests.
     *
     * @param name may be empty
     */
    public static String called(String name, String address) {
        if (!name.isBlank()) {
            return name;
        }
        String local = address.substring(0, address.indexOf('@'));
        StringBuilder made = new StringBuilder();
        for (String part : local.split("[._+-]+", 0)) {
            if (!part.isBlank()) {
                made.append(made.isEmpty() ? "" : " ")
                        .append(part.substring(0, 1).toUpperCase(Locale.ROOT))
                        .append(part.substring(1));
            }
        }
        return made.isEmpty() ? address : made.toString();
    }

    /** Three of them at most by name. */
    public static String listed(List<String> all) {
        return all.size() <= 3
                ? String.join(", ", all)
                : String.join(", ", all.subList(0, 2)) + " and " + (all.size() - 2) + " more";
    }
}
