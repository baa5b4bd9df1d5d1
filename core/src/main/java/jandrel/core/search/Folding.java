package jandrel.core.search;

import java.text.Normalizer;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/**
 * Words as search compares them: without case and accents (Unicode NFKD, UAX #15), cut at whatever is neither letter nor digit. The
 * store's {@code search_fold} does the same.
 */
public final class Folding {
    private Folding() {}

    /** @param from where the word begins in the text, in chars, and {@code until} where it ends */
    record Word(String folded, int from, int until) {}

    public static List<String> words(String text) {
        return placed(text).stream().map(Word::folded).toList();
    }

    /** In their order. */
    static List<Word> placed(String text) {
        List<Word> words = new ArrayList<>();
        StringBuilder word = new StringBuilder();
        int from = 0;
        int i = 0;
        while (i < text.length()) {
            int letter = text.codePointAt(i);
            int next = i + Character.charCount(letter);
            int until = i;
            // a letter may fold to several, and what is between words to some, too
            for (int c :
                    (letter < 128 ? ascii(letter) : folded(letter)).codePoints().toArray()) {
                if (Character.isLetterOrDigit(c)) {
                    from = word.isEmpty() ? i : from;
                    word.appendCodePoint(c);
                    until = next;
                } else {
                    end(word, from, until, words);
                }
            }
            i = next;
        }
        end(word, from, i, words);
        return words;
    }

    private static void end(StringBuilder word, int from, int until, List<Word> words) {
        if (!word.isEmpty()) {
            words.add(new Word(word.toString(), from, until));
            word.setLength(0);
        }
    }

    private static String ascii(int letter) {
        return String.valueOf((char) Character.toLowerCase(letter));
    }

    /** Empty for what only marks the letter before it. */
    private static String folded(int letter) {
        StringBuilder bare = new StringBuilder();
        Normalizer.normalize(Character.toString(letter), Normalizer.Form.NFKD)
                .codePoints()
                .filter(c -> c < 0x300 || c > 0x36f)
                .forEach(bare::appendCodePoint);
        return bare.toString()
                .toLowerCase(Locale.ROOT)
                .replace("ß", "ss")
                .replace("æ", "ae")
                .replace("œ", "oe")
                .replace('ø', 'o')
                .replace('ł', 'l')
                .replace('đ', 'd')
                .replace('ð', 'd')
                .replace('ı', 'i')
                .replace('ς', 'σ');
    }
}
