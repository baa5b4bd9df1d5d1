package jandrel.core.item;

import java.util.Locale;
import java.util.regex.Pattern;

/** Words by which people say in a meeting's title or category how it stands. */
public final class TitleWords {
    private static final Pattern NO_WORD = Pattern.compile("[^\\p{L}\\p{N}]+");

    private TitleWords() {}

    /** A title holds it as a word of its own, or as several in a row; a category is it. Without regard to case and signs. */
    public static boolean in(MeetingItem meeting, String word) {
        return meeting.categories().contains(word.toLowerCase(Locale.ROOT))
                || (" " + plain(meeting.subject()) + " ").contains(" " + plain(word) + " ");
    }

    private static String plain(String text) {
        return NO_WORD.matcher(text.toLowerCase(Locale.ROOT)).replaceAll(" ").strip();
    }
}
