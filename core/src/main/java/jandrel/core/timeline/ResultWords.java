package jandrel.core.timeline;

import jandrel.core.item.MeetingItem;
import jandrel.core.item.TitleWords;
import java.util.List;

/**
 * One of the company's own results of meetings, such as “offer made”.
 *
 * @param words of a title or a category that say it
 */
public record ResultWords(String name, List<String> words) {
    public ResultWords {
        words = List.copyOf(words);
    }

    /** What a meeting says of itself: the first result that one of whose words it has; empty for none. */
    public static String of(List<ResultWords> all, MeetingItem meeting) {
        return all.stream()
                .filter(r -> r.words().stream().anyMatch(w -> TitleWords.in(meeting, w)))
                .map(ResultWords::name)
                .findFirst()
                .orElse("");
    }
}
