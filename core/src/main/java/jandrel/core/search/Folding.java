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

    /** Takes words one by one. */
    interface Reader {
        /**
         * @param from where the word begins in the text, in chars
         * @param until where it ends
         */
        void word(String folded, int from, int until);
    }

    public static List<String> words(String text) {
        List<String> words = new ArrayList<>();
        each(text, (word, from, until) -> words.add(word));
        return words;
    }

    /** In their order. */
    static List<Word> placed(String text) {
        List<Word> words = new ArrayList<>();
        each(text, (word, from, until) -> words.add(new Word(word, from, until)));
        return words;
    }

    /** In their order: every text that is captured goes through here. */
    static void each(String text, Reader reader) {
        StringBuilder word = new StringBuilder();
        int from = 0;
        int i = 0;
        while (i < text.length()) {
            int letter = text.codePointAt(i);
            int next = i + Character.charCount(letter);
            if (letter < 128) {
                if (Character.isLetterOrDigit(letter)) {
                    from = word.isEmpty() ? i : from;
                    word.append((char) Character.toLowerCase(letter));
                } else {
                    end(word, from, i, reader);
                }
                i = next;
                continue;
            }
            // a letter may fold to several, and what is between words to some, too
            String folded = folded(letter);
            int until = i;
            for (int at = 0, c; at < folded.length(); at += Character.charCount(c)) {
                c = folded.codePointAt(at);
                if (Character.isLetterOrDigit(c)) {
                    from = word.isEmpty() ? i : from;
                    word.appendCodePoint(c);
                    until = next;
                } else {
                    end(word, from, until, reader);
                }
            }
            i = next;
        }
        end(word, from, i, reader);
    }

    private static void end(StringBuilder word, int from, int until, Reader reader) {
        if (!word.isEmpty()) {
            reader.word(word.toString(), from, until);
            word.setLength(0);
        }
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
