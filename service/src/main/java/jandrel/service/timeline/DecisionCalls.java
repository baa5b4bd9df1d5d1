package jandrel.service.timeline;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.DecisionApi.Count;
import jandrel.api.DecisionApi.DecisionChange;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.DecisionApi.DecisionPage;
import jandrel.api.DecisionApi.Summary;
import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Rule;
import jandrel.core.decide.Sentences;
import jandrel.core.decide.Verdict;
import jandrel.service.kernel.CsvOut;
import jandrel.service.kernel.Paging;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.PageCursor;
import jandrel.store.timeline.DecisionFilter;
import jandrel.store.timeline.DecisionHistory;
import jandrel.store.timeline.Decisions;
import jandrel.store.timeline.Tallies;
import jandrel.store.timeline.Tallies.Sum;
import java.io.IOException;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.ModelAttribute;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Every decision, with its trail; and what they add up to. */
@RestController
class DecisionCalls {
    private static final int EXPORT_PAGE = 500;
    private final Decisions decisions;
    private final DecisionHistory history;
    private final Tallies tallies;

    DecisionCalls(Decisions decisions, DecisionHistory history, Tallies tallies) {
        this.history = history;
        this.decisions = decisions;
        this.tallies = tallies;
    }

    /** What to list; absent members do not filter. */
    public record Wanted(
            @Nullable String verdict,
            @Nullable String kind,
            @Nullable String rule,
            @Nullable UUID person,
            @Nullable UUID policy,
            @Nullable UUID exclusion,
            @Nullable UUID item,
            @Nullable Instant from,
            @Nullable Instant until,
            @Nullable String address) {
        DecisionFilter filter() {
            String v = orEmpty(verdict);
            if (!v.isEmpty()
                    && Arrays.stream(Verdict.values())
                            .noneMatch(known -> known.word().equals(v))) {
                throw Refusal.bad(
                        "There is no verdict “" + v + "”", "Verdicts are logged, waiting, left-out and unreadable.");
            }
            return new DecisionFilter(
                    v,
                    orEmpty(kind),
                    orEmpty(rule).toUpperCase(Locale.ROOT),
                    person,
                    policy,
                    exclusion,
                    item,
                    from == null ? DecisionFilter.FIRST : from,
                    until == null ? DecisionFilter.LAST : until,
                    key(orEmpty(address)));
        }

        private static String key(String address) {
            if (address.isBlank()) {
                return "";
            }
            return EmailAddress.parse(address)
                    .map(EmailAddress::toString)
                    .or(() -> DomainName.parse(address).map(DomainName::key))
                    .orElseThrow(() -> Refusal.bad(
                            "“" + address + "” is neither an address nor a domain",
                            "Write it like somebody@port.example or port.example."));
        }

        private static String orEmpty(@Nullable String text) {
            return text == null ? "" : text.strip();
        }
    }

    @GetMapping("/api/decisions")
    DecisionPage page(
            @ParameterObject @ModelAttribute Wanted wanted,
            @RequestParam(name = "next", defaultValue = "") String next,
            @RequestParam(name = "limit", defaultValue = "50") int limit,
            @AuthenticationPrincipal SignedIn me) {
        DecisionFilter filter = wanted.filter();
        Decisions.Page page = decisions.counted(filter, me.viewer(), Paging.after(next), Paging.limit(limit));
        List<Decisions.Shown> found = page.shown();
        Decisions.Shown last = found.isEmpty() ? null : found.get(found.size() - 1);
        return new DecisionPage(
                page.total(),
                page.orMore(),
                found.stream().map(Shown::decision).toList(),
                last != null && found.size() == limit ? Paging.next(last.at(), last.id()) : "");
    }

    @GetMapping("/api/decisions/{id}")
    DecisionInfo one(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        return Shown.decision(shown(id, me));
    }

    /** What it was before, what changed last first; of the last hundred times. */
    @GetMapping("/api/decisions/{id}/changes")
    List<DecisionChange> changes(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        return history.of(shown(id, me)).stream()
                .map(c -> new DecisionChange(
                        c.at(), c.before().word(), c.after().word(), c.why(), c.policy(), c.version()))
                .toList();
    }

    private Decisions.Shown shown(UUID id, SignedIn me) {
        return decisions.one(id, me.viewer()).orElseThrow(() -> Refusal.notFound("decision"));
    }

    @GetMapping(path = "/api/decisions.csv", produces = "text/csv")
    void export(
            @ParameterObject @ModelAttribute Wanted wanted,
            @AuthenticationPrincipal SignedIn me,
            HttpServletResponse response)
            throws IOException {
        DecisionFilter filter = wanted.filter();
        response.setContentType("text/csv");
        response.setCharacterEncoding("UTF-8");
        response.setHeader("Content-Disposition", "attachment; filename=decisions.csv");
        CsvOut out = new CsvOut(
                response.getWriter(),
                "id",
                "at",
                "kind",
                "person",
                "source",
                "verdict",
                "visibility",
                "subject",
                "why");
        PageCursor cursor = PageCursor.TOP;
        for (List<Decisions.Shown> page = decisions.page(filter, me.viewer(), cursor, EXPORT_PAGE);
                !page.isEmpty();
                page = decisions.page(filter, me.viewer(), cursor, EXPORT_PAGE)) {
            for (Decisions.Shown d : page) {
                DecisionInfo i = Shown.decision(d);
                out.row(
                        i.id(),
                        i.at(),
                        i.kind(),
                        i.personName(),
                        i.source(),
                        i.verdict(),
                        i.visibility(),
                        i.subject(),
                        String.join(" ", i.trail()));
            }
            Decisions.Shown last = page.get(page.size() - 1);
            cursor = new PageCursor(last.at(), last.id());
        }
    }

    @GetMapping("/api/summary")
    Summary summary(@AuthenticationPrincipal SignedIn me) {
        Tallies.Summary now = tallies.summary(me.viewer());
        List<Sum> sums = now.sums();
        return new Summary(
                sums.stream().mapToLong(Sum::count).sum(),
                sum(sums, Verdict.LOGGED),
                sum(sums, Verdict.WAITING),
                sum(sums, Verdict.LEFT_OUT),
                sum(sums, Verdict.UNREADABLE),
                now.activities(),
                sums.stream().map(DecisionCalls::count).toList(),
                (int) connections(now, state -> true),
                (int) connections(now, state -> state.equals("connecting")),
                (int) connections(now, state -> !state.equals("connecting") && !state.equals("capturing")),
                now.reconsidering(),
                now.refetching());
    }

    private static long connections(Tallies.Summary summary, Predicate<String> in) {
        return summary.connections().stream()
                .filter(c -> in.test(c.state()))
                .mapToLong(Tallies.State::count)
                .sum();
    }

    private static long sum(List<Sum> sums, Verdict verdict) {
        return sums.stream()
                .filter(s -> s.verdict().equals(verdict.word()))
                .mapToLong(Sum::count)
                .sum();
    }

    private static Count count(Sum s) {
        String words = s.rule().isEmpty() ? "" : Sentences.heading(Rule.valueOf(s.rule()));
        return new Count(s.kind(), s.verdict(), s.rule().toLowerCase(Locale.ROOT), words, s.count());
    }
}
