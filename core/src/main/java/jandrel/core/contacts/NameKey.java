package jandrel.core.contacts;

import jandrel.core.search.Folding;
import java.util.stream.Collectors;

/**
 * A person's name as names are compared: without case and accents, its words in no order, so that <i>Halvorsen, Runa</i> is <i>Runa
 * Halvorsen</i>.
 */
public record NameKey(String text) {
    /** @return an empty one for a name without a letter, which is nobody's */
    public static NameKey of(String name) {
        return new NameKey(Folding.words(name).stream().sorted().collect(Collectors.joining(" ")));
    }

    public boolean isEmpty() {
        return text.isEmpty();
    }

    /** Whether it tells anybody apart: a first name alone does not. */
    public boolean isWhole() {
        return text.indexOf(' ') > 0;
    }
}
