package jandrel.client;

import jandrel.api.PolicyApi.BookConditionRule;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Conditions as one writes them: {@code organisation contains "Port and Pier" and mail filled}. */
final class BookConditions {
    private static final Pattern WORD = Pattern.compile("\"([^\"]*)\"|(\\S+)");
    private static final Set<String> WITHOUT_VALUE = Set.of("empty", "filled");

    private BookConditions() {}

    /** Alternatives, each of conditions that are all to be met. */
    static List<List<BookConditionRule>> all(List<String> texts) {
        return texts.stream().map(BookConditions::one).toList();
    }

    private static List<BookConditionRule> one(String text) {
        List<BookConditionRule> all = new ArrayList<>();
        List<String> words = new ArrayList<>();
        Matcher word = WORD.matcher(text);
        while (word.find()) {
            boolean quoted = word.group(1) != null;
            if (!quoted && word.group(2).equalsIgnoreCase("and")) {
                all.add(condition(words, text));
                words.clear();
            } else {
                words.add(quoted ? word.group(1) : word.group(2));
            }
        }
        all.add(condition(words, text));
        return all;
    }

    private static BookConditionRule condition(List<String> words, String text) {
        boolean whole = words.size() > 2 || (words.size() == 2 && WITHOUT_VALUE.contains(words.get(1)));
        if (!whole) {
            throw new Trouble(
                    Trouble.USE,
                    "“" + text + "” is no condition: write FIELD COMPARISON VALUE, such as organisation contains Port;"
                            + " several with and between");
        }
        return new BookConditionRule(words.get(0), words.get(1), String.join(" ", words.subList(2, words.size())));
    }
}
