package jandrel.store.timeline;

import jandrel.core.search.Language;
import java.util.List;
import java.util.UUID;
import java.util.function.UnaryOperator;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Fills the index of what was written, beside its capture. */
@Component
public class SearchIndex {
    /** What stands further on in a text is not found by its words. */
    static final int LONGEST = 40_000;

    private static final int BATCH = 100;
    private final SearchMapper mapper;

    SearchIndex(SearchMapper mapper) {
        this.mapper = mapper;
    }

    /**
     * Indexes the next few texts.
     *
     * @param own cuts off what a text quotes; the result is its beginning
     * @return how many; 0 when all are indexed
     */
    @Transactional
    public int next(UnaryOperator<String> own) {
        List<SearchMapper.ToIndex> batch = mapper.toIndex(LONGEST, BATCH);
        if (batch.isEmpty()) {
            return 0;
        }
        UUID[] items = batch.stream().map(SearchMapper.ToIndex::item).toArray(UUID[]::new);
        List<String> said = batch.stream().map(b -> beginning(b.text(), own)).toList();
        mapper.index(
                items,
                batch.stream().map(SearchMapper.ToIndex::content).toArray(UUID[]::new),
                said.stream().map(t -> Language.of(t).letter()).toArray(String[]::new),
                said.stream()
                        .map(t -> String.valueOf(t.codePointCount(0, t.length())))
                        .toArray(String[]::new));
        mapper.addParts(items);
        return batch.size();
    }

    /** As long as what is its own; lines may end in either way. All of it where that is no beginning of it. */
    private static String beginning(String text, UnaryOperator<String> own) {
        String cut = own.apply(text);
        int at = 0;
        for (int i = 0; i < cut.length(); i++, at++) {
            if (at + 1 < text.length() && text.charAt(at) == '\r' && cut.charAt(i) == '\n') {
                at++;
            }
            if (at >= text.length() || text.charAt(at) != cut.charAt(i)) {
                return text;
            }
        }
        return text.substring(0, at);
    }

    /** How much is still to be indexed, up to a number. */
    public long toIndex(int most) {
        return mapper.toIndexCount(most);
    }

    /** How many texts were ever added. */
    public long added() {
        return mapper.added();
    }

    /** To be done when there is nothing else to do. */
    public void tidy() {
        mapper.tidy();
    }
}
