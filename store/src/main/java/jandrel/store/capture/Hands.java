package jandrel.store.capture;

import jandrel.core.decide.ManualOverride;

/** Choices by hand as the database keeps them. */
public final class Hands {
    private static final String COUNT = "count:";
    private static final String KEEP_OUT = "keep-out:";
    private static final String UNPROVEN = "unproven:";

    private Hands() {}

    static String text(ManualOverride hand) {
        return switch (hand.choice()) {
            case NONE -> "";
            case COUNT -> COUNT + hand.by();
            case KEEP_OUT -> KEEP_OUT + hand.by();
            case UNPROVEN -> UNPROVEN + hand.by();
        };
    }

    public static ManualOverride of(String text) {
        if (text.startsWith(COUNT)) {
            return ManualOverride.count(text.substring(COUNT.length()));
        }
        if (text.startsWith(UNPROVEN)) {
            return ManualOverride.unproven(text.substring(UNPROVEN.length()));
        }
        return text.startsWith(KEEP_OUT)
                ? ManualOverride.keepOut(text.substring(KEEP_OUT.length()))
                : ManualOverride.NONE;
    }
}
