package jandrel.core.directory;

import jandrel.core.search.Folding;
import java.util.List;
import java.util.Set;

/**
 * A company's name as such names are compared: without case, accents, spaces and what says its legal form at the end, so that <i>Fjord
 * Post AS</i> is <i>Fjordpost</i>.
 */
public record CompanyKey(String text) {
    private static final Set<String> FORMS = Set.of(
            "ab",
            "ag",
            "ans",
            "aps",
            "as",
            "asa",
            "bv",
            "bvba",
            "co",
            "company",
            "corp",
            "corporation",
            "da",
            "doo",
            "ehf",
            "eg",
            "eirl",
            "ev",
            "gmbh",
            "hf",
            "inc",
            "incorporated",
            "kft",
            "kg",
            "kgaa",
            "limited",
            "llc",
            "llp",
            "lp",
            "ltd",
            "ltda",
            "mbh",
            "nv",
            "ohg",
            "oy",
            "oyj",
            "plc",
            "pte",
            "pty",
            "sa",
            "sarl",
            "sas",
            "se",
            "sl",
            "slu",
            "snc",
            "sp",
            "spa",
            "srl",
            "sro",
            "sv",
            "ua",
            "ug",
            "ulc",
            "zrt",
            "zoo");
    /** Of a form that is written with stops: <i>S. p. A.</i> */
    private static final int LONGEST_FORM = 6;

    /** @return an empty one for a name without a letter or digit, which is no company's */
    public static CompanyKey of(String name) {
        List<String> words = Folding.words(name);
        int end = words.size();
        while (end > 1) {
            int shorter = withoutForm(words, end);
            if (shorter == end) {
                break;
            }
            end = shorter;
        }
        return new CompanyKey(String.join("", words.subList(0, end)));
    }

    /** How many words are left without the form that the first so many end with; as many where they end with none. */
    private static int withoutForm(List<String> words, int end) {
        if (FORMS.contains(words.get(end - 1))) {
            return end - 1;
        }
        StringBuilder letters = new StringBuilder();
        for (int i = end - 1; i > 0 && words.get(i).length() == 1 && letters.length() < LONGEST_FORM; i--) {
            letters.insert(0, words.get(i));
            if (letters.length() > 1 && FORMS.contains(letters.toString())) {
                return i;
            }
        }
        return end;
    }

    public boolean isEmpty() {
        return text.isEmpty();
    }
}
