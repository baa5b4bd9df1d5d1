package jandrel.service.timeline;

import jandrel.api.ActivityApi.SearchPage;
import jandrel.core.search.InvalidSearch;
import jandrel.core.search.SearchQuery;
import jandrel.service.kernel.NamedZone;
import jandrel.service.kernel.Paging;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.timeline.Search;
import jandrel.store.timeline.Search.Hit;
import jandrel.store.timeline.SearchIndex;
import jandrel.store.timeline.Timelines.Entry;
import java.time.ZoneId;
import java.util.List;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Finds activities by what was written. */
@RestController
class SearchCalls {
    private final Search search;
    private final SearchIndex index;

    SearchCalls(Search search, SearchIndex index) {
        this.search = search;
        this.index = index;
    }

    /**
     * What the asker reads in full and the query fits.
     *
     * @param words words, “phrases”, beginnings ({@code buo*}), {@code from:}, {@code to:}, {@code with:}, {@code of:}, {@code in:},
     *     {@code has:attachment}, {@code after:}, {@code before:}, each with {@code -} before it for what must not fit
     * @param sort {@code newest} first, or the {@code best} among the newest 200
     * @param zone whose days {@code after:} and {@code before:} name
     */
    @GetMapping("/api/search")
    SearchPage find(
            @RequestParam("words") String words,
            @RequestParam(name = "sort", defaultValue = "newest") String sort,
            @RequestParam(name = "zone", defaultValue = "UTC") String zone,
            @RequestParam(name = "next", defaultValue = "") String next,
            @RequestParam(name = "limit", defaultValue = "50") int limit,
            @AuthenticationPrincipal SignedIn me) {
        SearchQuery query = query(words);
        ZoneId at = NamedZone.called(zone);
        int most = Paging.limit(limit);
        Search.Page page = switch (sort) {
            case "newest" -> search.page(query, at, me.viewer(), Paging.after(next), most);
            case "best" -> search.best(query, at, me.viewer(), Math.min(most, Search.MOST_RANKED));
            default -> throw Refusal.bad("There is no order “" + sort + "”", "Orders are newest and best.");
        };
        return new SearchPage(
                page.total(),
                page.orMore(),
                index.toIndex(1) > 0,
                page.hits().stream().map(Shown::found).toList(),
                sort.equals("best") ? "" : next(page.hits(), most));
    }

    private static SearchQuery query(String words) {
        try {
            return SearchQuery.parse(words);
        } catch (InvalidSearch invalid) {
            throw Refusal.bad("This cannot be searched for", String.valueOf(invalid.getMessage()));
        }
    }

    private static String next(List<Hit> hits, int limit) {
        if (hits.size() < limit) {
            return "";
        }
        Entry last = hits.get(hits.size() - 1).entry();
        return Paging.next(last.sorted(), last.id());
    }
}
