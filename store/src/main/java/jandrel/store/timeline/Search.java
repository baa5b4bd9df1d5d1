package jandrel.store.timeline;

import jandrel.core.search.Folding;
import jandrel.core.search.Relevance;
import jandrel.core.search.SearchQuery;
import jandrel.core.search.SearchQuery.Field;
import jandrel.core.search.SearchQuery.Term;
import jandrel.core.search.Sought;
import jandrel.core.visibility.Viewer;
import jandrel.core.visibility.Visibility;
import jandrel.store.kernel.PageCursor;
import jandrel.store.kernel.ReadTimeout;
import jandrel.store.timeline.SearchMapper.Named;
import jandrel.store.timeline.SearchMapper.Part;
import jandrel.store.timeline.SearchMapper.Stem;
import jandrel.store.timeline.TimelineMapper.ActivityRow;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import java.util.function.BinaryOperator;
import java.util.function.ToLongBiFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Finds activities by what was written. The index is asked for one stretch of time after another, the newest first, so that what is found
 * often costs no more than what is found rarely.
 */
@Component
public class Search {
    /** Counting goes no further than this. */
    static final int MOST_COUNTED = 500;

    /** The best are looked for among so many of the newest. */
    public static final int MOST_RANKED = 200;

    private static final int MOST_AT_ONCE = 32;
    private static final UUID LAST = new UUID(-1L, -1L);
    private final SearchMapper mapper;
    private final Timelines timelines;

    /**
     * @param total how many there are, as far as they were counted
     * @param orMore whether there may be more than that
     */
    public record Page(List<Hit> hits, long total, boolean orMore) {}

    /**
     * @param text what it says itself, without what it quotes
     * @param found which words of it were looked for
     */
    public record Hit(Timelines.Entry entry, String text, int attachments, Sought found) {
        public String subject() {
            return entry.item() == null ? "" : entry.item().subject();
        }

        double relevance() {
            return Relevance.of(subject(), text, found);
        }
    }

    Search(SearchMapper mapper, Timelines timelines) {
        this.mapper = mapper;
        this.timelines = timelines;
    }

    /**
     * What the viewer reads in full and the query fits, newest first.
     *
     * @param zone whose days the query names
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS, isolation = Isolation.REPEATABLE_READ)
    public Page page(SearchQuery query, ZoneId zone, Viewer viewer, PageCursor before, int limit) {
        Asked asked = new Asked(query, zone, viewer);
        List<ActivityRow> rows = new ArrayList<>();
        asked.each(before.at(), (terms, span) -> asked.take(terms, span, before, limit, rows), limit);
        List<Timelines.Entry> entries = timelines.entries(rows, viewer).stream()
                .filter(e -> e.visibility() == Visibility.FULL)
                .toList();
        boolean whole = before.equals(PageCursor.TOP) && rows.size() < limit;
        long total = whole ? entries.size() : asked.count();
        return new Page(asked.hits(entries), Math.min(total, MOST_COUNTED), total > MOST_COUNTED);
    }

    /**
     * Those among the newest that fit best, best first.
     *
     * @param limit at most {@link #MOST_RANKED}
     */
    @Transactional(readOnly = true, timeout = ReadTimeout.SECONDS, isolation = Isolation.REPEATABLE_READ)
    public Page best(SearchQuery query, ZoneId zone, Viewer viewer, int limit) {
        Page newest = page(query, zone, viewer, PageCursor.TOP, MOST_RANKED);
        List<Hit> ranked = newest.hits().stream()
                .sorted(Comparator.comparingDouble((Hit h) -> -h.relevance())
                        .thenComparing(h -> h.entry().sorted(), Comparator.reverseOrder()))
                .limit(limit)
                .toList();
        return new Page(ranked, newest.total(), newest.orMore());
    }

    private record Span(Instant from, Instant until) {}

    /** One query of one viewer. */
    private final class Asked {
        private final SearchQuery query;
        private final Viewer viewer;
        private final Instant after;
        private final Instant before;
        private final Map<Integer, List<String>> languages = new TreeMap<>(Comparator.reverseOrder());
        /** By language and word. */
        private final Map<String, Map<String, String>> stems = new HashMap<>();

        Asked(SearchQuery query, ZoneId zone, Viewer viewer) {
            this.query = query;
            this.viewer = viewer;
            this.after = day(query.after(), zone, DecisionFilter.FIRST);
            this.before = day(query.before(), zone, DecisionFilter.LAST);
            for (Part part : mapper.parts()) {
                // what has no text lies under no language
                languages
                        .computeIfAbsent(part.month(), q -> new ArrayList<>(List.of("x")))
                        .add(part.language());
            }
            Set<String> all = new HashSet<>(Set.of("x"));
            languages.values().forEach(all::addAll);
            String[] words = query.terms().stream()
                    .flatMap(t -> t.words().stream())
                    .distinct()
                    .toArray(String[]::new);
            for (Stem one : mapper.stems(all.toArray(String[]::new), words)) {
                stems.computeIfAbsent(one.language(), l -> new HashMap<>()).put(one.word(), one.stem());
            }
        }

        private static Instant day(@Nullable LocalDate day, ZoneId zone, Instant otherwise) {
            return day == null ? otherwise : day.atStartOfDay(zone).toInstant();
        }

        /** As the database counts them. */
        private static int month(Instant at) {
            LocalDate day = LocalDate.ofInstant(at, ZoneOffset.UTC);
            return Math.max(0, 12 * (day.getYear() - 1970) + day.getMonthValue());
        }

        /** Asks for one stretch of time after another, each longer than the one before, until there is enough. */
        void each(Instant until, ToLongBiFunction<SearchTerms, Span> ask, long enough) {
            List<Integer> months =
                    languages.keySet().stream().filter(m -> m <= month(until)).toList();
            int at = 0;
            int wide = 1;
            long found = 0;
            while (at < months.size() && found < enough) {
                List<Integer> stretch = months.subList(at, Math.min(months.size(), at + wide));
                found = ask.applyAsLong(terms(stretch), new Span(after, before));
                at += wide;
                wide = Math.min(MOST_AT_ONCE, wide * 2);
            }
        }

        /** Looks at what is named, some at a time, until there is enough or no more. */
        long take(SearchTerms terms, Span span, PageCursor before, int enough, List<ActivityRow> rows) {
            // whoever stands at the same moment as the page's end may be on either side of it
            Instant at = before.at();
            UUID item = LAST;
            int some = Math.max(MOST_RANKED, enough);
            List<Named> named;
            do {
                named = mapper.named(terms, span.from, at, item, some);
                if (!named.isEmpty()) {
                    rows.addAll(mapper.found(
                            named.stream().map(Named::item).toArray(UUID[]::new),
                            named.stream().map(Named::content).toArray(UUID[]::new),
                            named.stream().map(n -> n.at().toString()).toArray(String[]::new),
                            named.stream().map(Named::id).toArray(UUID[]::new),
                            named.stream().map(n -> String.valueOf(n.face())).toArray(String[]::new),
                            terms,
                            Timelines.readsAnything(viewer),
                            Timelines.ids(viewer),
                            span.from,
                            span.until,
                            before.at(),
                            before.id(),
                            enough - rows.size()));
                    at = named.get(named.size() - 1).at();
                    item = named.get(named.size() - 1).item();
                }
            } while (named.size() == some && rows.size() < enough);
            return rows.size();
        }

        long count() {
            long[] total = new long[1];
            each(
                    PageCursor.TOP.at(),
                    (terms, span) -> {
                        total[0] += mapper.count(
                                terms,
                                Timelines.readsAnything(viewer),
                                Timelines.ids(viewer),
                                span.from,
                                span.until,
                                PageCursor.TOP.at(),
                                (int) (MOST_COUNTED + 1 - total[0]));
                        return total[0];
                    },
                    MOST_COUNTED + 1);
            return total[0];
        }

        private SearchTerms terms(List<Integer> months) {
            String indexed = under(
                    months,
                    (under, language) -> wanted().map(t -> "(" + indexed(t, under, language) + ")")
                            .collect(Collectors.joining(" & ")));
            String without = query.terms().stream().anyMatch(Asked::isWordNot)
                    ? under(
                            months,
                            (under, language) -> query.terms().stream()
                                    .filter(Asked::isWordNot)
                                    .map(t -> indexed(t, under, language))
                                    .collect(Collectors.joining(" | ")))
                    : "";
            return new SearchTerms(
                    indexed,
                    without,
                    query.terms().stream()
                            .filter(t -> t.field() == Field.TEXT && (t.isPhrase() || t.begins()))
                            .map(t -> pattern(t, t.begins()))
                            .toArray(String[]::new),
                    patterns(Field.FROM),
                    patterns(Field.TO),
                    patterns(Field.WITH),
                    patterns(Field.OF),
                    patterns(Field.IN),
                    query.attached() == null ? "" : query.attached() ? "yes" : "no");
        }

        private String[] patterns(Field field) {
            // of a name its beginning will do
            return query.terms().stream()
                    .filter(t -> t.field() == field)
                    .map(t -> pattern(t, true))
                    .toArray(String[]::new);
        }

        /** Folded words have nothing in them that stands for something else. */
        private static String pattern(Term term, boolean begins) {
            return (term.not() ? "-% " : "+% ") + String.join(" ", term.words()) + (begins ? "%" : " %");
        }

        private String under(List<Integer> months, BinaryOperator<String> terms) {
            return months.stream()
                    .flatMap(m -> languages.getOrDefault(m, List.of()).stream()
                            .distinct()
                            .map(l -> "(" + terms.apply("%04d%s".formatted(m, l), l) + ")"))
                    .collect(Collectors.joining(" | "));
        }

        /** Whether it is a word that must not be there, in none of its forms. */
        private static boolean isWordNot(Term term) {
            return term.not() && term.field() == Field.TEXT && !term.isPhrase() && !term.begins();
        }

        private String indexed(Term term, String under, String language) {
            List<String> all = new ArrayList<>();
            for (int i = 0; i < term.words().size(); i++) {
                String word = term.words().get(i);
                boolean begins = i == term.words().size() - 1 && (term.begins() || term.field() != Field.TEXT);
                all.add(begins ? "(" + beginning(under, word) + ")" : quoted(under + stem(language, word)));
            }
            return String.join(" & ", all);
        }

        private String stem(String language, String word) {
            return stems.getOrDefault(language, Map.of()).getOrDefault(word, word);
        }

        /** What the forms of a word have in common may be shorter than its beginning, and end otherwise: whether it fits is seen later. */
        private static String beginning(String under, String word) {
            StringBuilder any =
                    new StringBuilder(quoted(under + word.substring(0, Math.max(2, word.length()) - 1)) + ":*");
            for (int length = 2; length < word.length() - 1; length++) {
                any.append(" | ").append(quoted(under + word.substring(0, length)));
            }
            return any.toString();
        }

        List<Hit> hits(List<Timelines.Entry> entries) {
            if (entries.isEmpty()) {
                return List.of();
            }
            UUID[] ids = entries.stream().map(Timelines.Entry::id).toArray(UUID[]::new);
            Map<UUID, SearchMapper.Said> said = new HashMap<>();
            mapper.said(ids, Timelines.ids(viewer)).forEach(s -> said.put(s.id(), s));
            List<Term> phrases = wanted().filter(Term::isPhrase).toList();
            Found found = new Found(wanted().filter(t -> !t.isPhrase()).toList());
            Map<UUID, Set<String>> alike = new HashMap<>();
            said.forEach((id, s) -> alike.put(id, found.alike(s)));
            found.ask(said.values().stream().map(SearchMapper.Said::language).collect(Collectors.toSet()));
            return entries.stream()
                    .map(e -> {
                        SearchMapper.Said s = said.get(e.id());
                        return s == null
                                ? new Hit(e, "", 0, Sought.NOTHING)
                                : new Hit(
                                        e,
                                        s.text(),
                                        s.attachments(),
                                        new Sought(
                                                found.of(s.language(), alike.getOrDefault(s.id(), Set.of())), phrases));
                    })
                    .toList();
        }

        /** Which words of a text are forms of those that were looked for. */
        private final class Found {
            private final List<Term> wanted;
            private final Set<String> candidates = new HashSet<>();
            private final Map<String, Map<String, String>> known = new HashMap<>();

            Found(List<Term> wanted) {
                this.wanted = wanted;
            }

            /** All forms of a word begin alike: so few are left to look up. */
            Set<String> alike(SearchMapper.Said said) {
                Set<String> alike = new HashSet<>();
                for (String word : Folding.words(said.subject() + "\n" + said.text())) {
                    if (wanted.stream().flatMap(t -> t.words().stream()).anyMatch(w -> startsAlike(w, word))) {
                        alike.add(word);
                    }
                }
                candidates.addAll(alike);
                return alike;
            }

            private static boolean startsAlike(String wanted, String word) {
                return word.startsWith(wanted.substring(0, Math.min(2, wanted.length())));
            }

            void ask(Set<String> languages) {
                mapper.stems(languages.toArray(String[]::new), candidates.toArray(String[]::new))
                        .forEach(s -> known.computeIfAbsent(s.language(), l -> new HashMap<>())
                                .put(s.word(), s.stem()));
            }

            Set<String> of(String language, Set<String> alike) {
                return alike.stream()
                        .filter(w -> wanted.stream().anyMatch(t -> isOf(t, w, language)))
                        .collect(Collectors.toSet());
            }

            private boolean isOf(Term term, String word, String language) {
                String last = term.words().get(term.words().size() - 1);
                if ((term.begins() || term.field() != Field.TEXT) && word.startsWith(last)) {
                    return true;
                }
                String stem = known.getOrDefault(language, Map.of()).getOrDefault(word, word);
                return term.words().stream().anyMatch(w -> stem(language, w).equals(stem));
            }
        }

        private Stream<Term> wanted() {
            return query.terms().stream().filter(t -> !t.not() && t.field() != Field.OF && t.field() != Field.IN);
        }

        /** Of letters and digits alone. */
        private static String quoted(String lexeme) {
            return "'" + lexeme + "'";
        }
    }
}
