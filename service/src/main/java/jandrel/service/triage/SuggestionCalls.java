package jandrel.service.triage;

import jandrel.api.ExclusionApi.SuggestionInfo;
import jandrel.service.people.SignedIn;
import jandrel.service.policy.ExclusionText;
import jandrel.store.triage.ExclusionSuggestions;
import java.util.List;
import java.util.Locale;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What could be excluded, found in what waits for a match. */
@RestController
class SuggestionCalls {
    private static final int HEAVY = 5;
    private final ExclusionSuggestions suggestions;

    SuggestionCalls(ExclusionSuggestions suggestions) {
        this.suggestions = suggestions;
    }

    /** What the company's own data says could be excluded, with the numbers behind it. */
    @GetMapping("/api/exclusions/suggestions")
    List<SuggestionInfo> suggestions(
            @RequestParam(name = "least", defaultValue = "" + HEAVY) int least, @AuthenticationPrincipal SignedIn me) {
        return suggestions.find(Math.max(1, least), me.viewer()).stream()
                .map(s -> new SuggestionInfo(
                        s.why().equals("own") ? "own-domain" : "domain",
                        ExclusionText.bare(s.key()),
                        why(s),
                        s.items(),
                        s.people()))
                .toList();
    }

    private static String why(ExclusionSuggestions.Suggestion s) {
        return s.why().equals("own")
                ? String.format(
                        Locale.ROOT,
                        "%,d of our people have addresses there, and it is not among our own domains.",
                        s.people())
                : String.format(
                        Locale.ROOT,
                        "%,d messages to %,d of our people, and nobody of ours ever wrote there.",
                        s.items(),
                        s.people());
    }
}
