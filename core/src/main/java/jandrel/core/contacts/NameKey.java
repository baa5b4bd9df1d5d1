package jandrel.core.contacts;

import jandrel.core.search.Folding;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * A person's name as names are compared: without case and accents, its words in no order, so that <i>Halvorsen, Runa</i> is <i>Runa
 * Halvorsen</i>.
 */
public record NameKey(String text) {
    private static final int MOST_INITIALS = 4;

    /** @return an empty one for a name without a letter, which is nobody's */
    public static NameKey of(String name) {
        return new NameKey(Folding.words(name).stream().sorted().collect(Collectors.joining(" ")));
    }

    public boolean isEmpty() {
        return text.isEmpty();
    }

    /** Its words that are more than an initial, each once. */
    public List<String> wholeWords() {
        return words().stream().filter(w -> w.length() > 1).distinct().toList();
    }

    public boolean hasInitials() {
        return words().stream().anyMatch(w -> w.length() == 1);
    }

    private List<String> words() {
        return text.isEmpty() ? List.of() : List.of(text.split(" "));
    }

    /**
     * Whether one of the two names has initials for words of the other, and all else is the same: <i>R. Halvorsen</i> may be <i>Runa
     * Halvorsen</i>. At least one word of each is the same and no initial.
     */
    public boolean mayBeShortFor(NameKey other) {
        List<String> mine = new ArrayList<>(words());
        List<String> theirs = new ArrayList<>(other.words());
        if (mine.size() != theirs.size()) {
            return false;
        }
        boolean shared = false;
        for (String word : words()) {
            if (theirs.remove(word)) {
                mine.remove(word);
                shared |= word.length() > 1;
            }
        }
        return shared && !mine.isEmpty() && pairUp(mine, theirs);
    }

    /** Whether each has another for which it is an initial, or the other way round. A name has few words. */
    private static boolean pairUp(List<String> some, List<String> others) {
        if (some.isEmpty()) {
            return true;
        }
        if (some.size() > MOST_INITIALS) {
            return false;
        }
        String first = some.get(0);
        for (String other : others) {
            boolean initial =
                    first.length() == 1 ? other.startsWith(first) : other.length() == 1 && first.startsWith(other);
            if (initial) {
                List<String> rest = new ArrayList<>(others);
                rest.remove(other);
                if (pairUp(some.subList(1, some.size()), rest)) {
                    return true;
                }
            }
        }
        return false;
    }

    /** Whether it tells anybody apart: a first name alone does not. */
    public boolean isWhole() {
        return text.indexOf(' ') > 0;
    }
}
