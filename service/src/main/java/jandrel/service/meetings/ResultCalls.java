package jandrel.service.meetings;

import jandrel.api.DirectoryApi.LineProblem;
import jandrel.api.MeetingApi.ResultInfo;
import jandrel.api.MeetingApi.ResultList;
import jandrel.core.timeline.ResultWords;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.timeline.MeetingResults;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The company's own results of meetings. */
@RestController
class ResultCalls {
    private static final int MOST = 50;
    private static final int LONGEST = 80;
    private final MeetingResults results;

    ResultCalls(MeetingResults results) {
        this.results = results;
    }

    @GetMapping("/api/results")
    ResultList all() {
        return new ResultList(results.all().stream()
                .map(r -> new ResultInfo(r.name(), r.words()))
                .toList());
    }

    @PutMapping("/api/results")
    ResultList change(@RequestBody ResultList wanted, @AuthenticationPrincipal SignedIn me) {
        List<LineProblem> problems = new ArrayList<>();
        List<ResultWords> all = wanted.results().stream()
                .map(r -> new ResultWords(
                        r.name().strip(), r.words().stream().map(String::strip).toList()))
                .toList();
        if (all.size() > MOST) {
            problems.add(new LineProblem(0, "results", "there are more than " + MOST));
        }
        Set<String> seen = new HashSet<>();
        for (int i = 0; i < all.size(); i++) {
            ResultWords r = all.get(i);
            if (!fits(r.name())) {
                problems.add(new LineProblem(i + 1, "name", "a name has 1 to " + LONGEST + " characters"));
            } else if (!seen.add(r.name().toLowerCase(Locale.ROOT))) {
                problems.add(new LineProblem(i + 1, "name", "“" + r.name() + "” is there twice"));
            }
            if (r.words().size() > MOST || !r.words().stream().allMatch(ResultCalls::fits)) {
                problems.add(
                        new LineProblem(i + 1, "words", "at most " + MOST + " words, each with a letter or digit"));
            }
        }
        if (!problems.isEmpty()) {
            throw Refusal.misfit("Nothing was changed", "Mend those below.", problems);
        }
        results.change(all, me.login());
        return all();
    }

    private static boolean fits(String name) {
        return name.length() <= LONGEST && name.codePoints().anyMatch(Character::isLetterOrDigit);
    }
}
