package jandrel.core.reconcile;

import jandrel.core.item.Party.Part;
import java.util.Locale;
import java.util.Optional;

/** What a guest answered (PARTSTAT, RFC 5545 §3.2.12). Who has not answered yet has none. The names are stored: never rename one. */
public enum Answer {
    ACCEPTED(Part.ACCEPTED),
    TENTATIVE(Part.TENTATIVE),
    DECLINED(Part.DECLINED),
    /** Somebody else comes instead. */
    DELEGATED(Part.DELEGATED);

    private final Part part;

    Answer(Part part) {
        this.part = part;
    }

    /** The part that a guest with this answer has in the meeting. */
    public Part part() {
        return part;
    }

    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }

    public static Optional<Answer> of(Part part) {
        for (Answer answer : values()) {
            if (answer.part == part) {
                return Optional.of(answer);
            }
        }
        return Optional.empty();
    }

    /** By the word of a calendar's file; nothing for one that is no answer, such as {@code NEEDS-ACTION}. */
    public static Optional<Answer> of(String word) {
        for (Answer answer : values()) {
            if (answer.name().equalsIgnoreCase(word)) {
                return Optional.of(answer);
            }
        }
        return Optional.empty();
    }
}
