package jandrel.service.measures;

import jandrel.api.DirectoryApi.LineProblem;
import jandrel.api.MeasureApi.StageInfo;
import jandrel.api.MeasureApi.StageLists;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.measures.StageList;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The company's own stages and channels. */
@RestController
class StageCalls {
    private static final int MOST = 50;
    private static final int LONGEST = 80;
    private static final Set<String> MEANS = Set.of("open", "agreed", "won", "lost");
    private final StageList lists;

    StageCalls(StageList lists) {
        this.lists = lists;
    }

    @GetMapping("/api/stages")
    StageLists all() {
        return new StageLists(
                lists.stages().stream()
                        .map(s -> new StageInfo(s.name(), s.means()))
                        .toList(),
                lists.channels());
    }

    @PutMapping("/api/stages")
    StageLists change(@RequestBody StageLists wanted, @AuthenticationPrincipal SignedIn me) {
        List<LineProblem> problems = new ArrayList<>();
        List<StageList.Stage> stages = wanted.stages().stream()
                .map(s -> new StageList.Stage(s.name().strip(), s.means()))
                .toList();
        for (int i = 0; i < stages.size(); i++) {
            if (!MEANS.contains(stages.get(i).means())) {
                problems.add(new LineProblem(
                        i + 1, "means", "“" + stages.get(i).means() + "” is not open, agreed, won or lost"));
            }
        }
        List<String> channels = wanted.channels().stream().map(String::strip).toList();
        names(stages.stream().map(StageList.Stage::name).toList(), "stages", problems);
        names(channels, "channels", problems);
        if (!problems.isEmpty()) {
            throw Refusal.misfit("Nothing was changed", "Mend those below.", problems);
        }
        lists.change(stages, channels, me.login());
        return all();
    }

    private static void names(List<String> names, String column, List<LineProblem> problems) {
        if (names.size() > MOST) {
            problems.add(new LineProblem(0, column, "there are more than " + MOST));
        }
        Set<String> seen = new HashSet<>();
        for (int i = 0; i < names.size(); i++) {
            String name = names.get(i);
            if (name.isEmpty() || name.length() > LONGEST) {
                problems.add(new LineProblem(i + 1, column, "a name has 1 to " + LONGEST + " characters"));
            } else if (!seen.add(name)) {
                problems.add(new LineProblem(i + 1, column, "“" + name + "” is there twice"));
            }
        }
    }
}
