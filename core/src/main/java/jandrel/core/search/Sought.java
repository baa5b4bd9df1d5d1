package jandrel.core.search;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * The words of one text that were looked for.
 *
 * @param words as they stand in the text, folded
 * @param phrases words that were looked for one after another
 */
public record Sought(Set<String> words, List<SearchQuery.Term> phrases) {
    /** Nothing. */
    public static final Sought NOTHING = new Sought(Set.of(), List.of());

    public Sought {
        words = Set.copyOf(words);
        phrases = List.copyOf(phrases);
    }

    /** Where they stand, in their order. */
    List<Folding.Word> in(String text) {
        List<Folding.Word> all = Folding.placed(text);
        Set<Integer> together = new HashSet<>();
        for (SearchQuery.Term phrase : phrases) {
            int length = phrase.words().size();
            for (int i = 0; i + length <= all.size(); i++) {
                if (stands(phrase, all.subList(i, i + length))) {
                    for (int k = i; k < i + length; k++) {
                        together.add(k);
                    }
                }
            }
        }
        List<Folding.Word> found = new ArrayList<>();
        for (int i = 0; i < all.size(); i++) {
            if (together.contains(i) || words.contains(all.get(i).folded())) {
                found.add(all.get(i));
            }
        }
        return found;
    }

    private static boolean stands(SearchQuery.Term phrase, List<Folding.Word> here) {
        int last = here.size() - 1;
        for (int i = 0; i <= last; i++) {
            String wanted = phrase.words().get(i);
            String is = here.get(i).folded();
            boolean begins = i == last && phrase.begins();
            boolean fits = begins ? is.startsWith(wanted) : is.equals(wanted);
            if (!fits) {
                return false;
            }
        }
        return true;
    }
}
