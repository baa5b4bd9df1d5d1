package jandrel.core.search;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Where in a text the words stand that were looked for. */
public final class Marks {
    private static final int LEAD = 24;
    private static final int MOST_TRIED = 50;

    private Marks() {}

    /** @param from in chars (UTF-16) from the beginning of the text */
    public record Mark(int from, int length) {}

    /** @param marks within {@code text} */
    public record Line(String text, List<Mark> marks) {}

    public static List<Mark> of(String text, Sought sought) {
        return sought.in(text).stream()
                .map(w -> new Mark(w.from(), w.until() - w.from()))
                .toList();
    }

    /**
     * The part of a text around the first place where most of the words stand together, in one line.
     *
     * @param most chars
     */
    public static Line line(String text, Sought sought, int most) {
        String line = String.join(" ", text.strip().split("\\s+"));
        List<Folding.Word> all = sought.in(line);
        int from = all.isEmpty() ? 0 : beginning(line, best(all, most), most);
        int until = Math.min(line.length(), from + most);
        if (until < line.length() && Character.isLowSurrogate(line.charAt(until))) {
            until--;
        }
        String before = from > 0 ? "…" : "";
        String cut = before + line.substring(from, until) + (until < line.length() ? "…" : "");
        List<Mark> marks = new ArrayList<>();
        for (Folding.Word word : all) {
            if (word.from() >= from && word.until() <= until) {
                marks.add(new Mark(word.from() - from + before.length(), word.until() - word.from()));
            }
        }
        return new Line(cut, marks);
    }

    /** Where the most different words stand within one line. */
    private static int best(List<Folding.Word> all, int most) {
        int best = all.get(0).from();
        int richest = 0;
        for (int first = 0; first < Math.min(all.size(), MOST_TRIED); first++) {
            int from = all.get(first).from();
            Set<String> words = new HashSet<>();
            for (int i = first; i < all.size() && all.get(i).until() <= from + most - LEAD; i++) {
                words.add(all.get(i).folded());
            }
            if (words.size() > richest) {
                richest = words.size();
                best = from;
            }
        }
        return best;
    }

    /** A little before it, at a word's beginning. */
    private static int beginning(String line, int mark, int most) {
        if (line.length() <= most || mark <= LEAD) {
            return 0;
        }
        int blank = line.indexOf(' ', mark - LEAD);
        return blank < 0 || blank >= mark ? mark : blank + 1;
    }
}
