package jandrel.service.meetings;

import java.util.List;

/** When so much vanishes from a calendar at once that somebody should say whether that is meant. */
final class MassChange {
    private static final int MANY = 100;
    private static final int FEW = 5;
    private static final int SMALL_CALENDAR = 20;
    private static final int LISTED = 500;

    private MassChange() {}

    /** More than a hundred, or more than a tenth of a calendar that is not small. */
    static boolean is(int vanished, long known) {
        return vanished > MANY || (vanished >= FEW && known >= SMALL_CALENDAR && vanished * 10L > known);
    }

    /** As many of them as are named to whoever decides about it. */
    static String[] listed(List<String> vanished) {
        return vanished.stream().limit(LISTED).toArray(String[]::new);
    }
}
