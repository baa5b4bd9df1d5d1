package jandrel.service.policy;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.api.ExclusionApi.AddedExclusions;
import jandrel.api.ExclusionApi.CheckedLine;
import jandrel.api.ExclusionApi.CheckedLines;
import jandrel.api.ExclusionApi.ExclusionInfo;
import jandrel.api.ExclusionApi.NewExclusions;
import jandrel.api.ExclusionApi.RemovedExclusions;
import jandrel.core.directory.Exclusion;
import jandrel.core.visibility.Role;
import jandrel.service.kernel.CsvOut;
import jandrel.service.kernel.LargestBody;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.kernel.Reopener;
import jandrel.store.policy.Exclusions;
import java.io.IOException;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Exclusions: many at once, each line checked before any is taken; everybody may have some of their own. */
@RestController
class ExclusionCalls {
    private static final int MOST_NAMED = 10;
    private final Exclusions exclusions;
    private final ExclusionText text;
    private final Reopener reopener;
    private final Settings settings;
    private final WakeUp nudges;

    ExclusionCalls(Exclusions exclusions, ExclusionText text, Reopener reopener, Settings settings, WakeUp nudges) {
        this.exclusions = exclusions;
        this.text = text;
        this.reopener = reopener;
        this.settings = settings;
        this.nudges = nudges;
    }

    /** Somebody's own ones are shown to them alone, and as a number to nobody. */
    @GetMapping("/api/exclusions")
    List<ExclusionInfo> all(@AuthenticationPrincipal SignedIn me) {
        return exclusions.all().stream()
                .filter(e ->
                        e.person() == null ? me.role() != Role.REP : e.person().equals(me.person()))
                .map(ExclusionCalls::shown)
                .toList();
    }

    private static ExclusionInfo shown(Exclusions.Listed e) {
        return new ExclusionInfo(
                e.id(),
                Exclusion.Kind.valueOf(e.kind()).word(),
                ExclusionText.bare(e.key()),
                e.reason(),
                e.policy(),
                e.personName(),
                e.lastDay() == null ? null : e.lastDay().toString(),
                e.addedBy(),
                e.addedAt(),
                e.items());
    }

    /** Says of each line whether it can be taken, and takes none. */
    @PostMapping("/api/exclusions/check")
    @LargestBody(kilobytes = 4096)
    CheckedLines check(@RequestBody NewExclusions wanted) {
        List<CheckedLine> lines = text.checked(wanted);
        long problems = lines.stream().filter(l -> !l.problem().isEmpty()).count();
        long known = lines.stream().filter(CheckedLine::known).count();
        return new CheckedLines(lines, lines.size() - problems, problems, known);
    }

    @PostMapping("/api/exclusions")
    @LargestBody(kilobytes = 4096)
    AddedExclusions add(@RequestBody NewExclusions wanted, @AuthenticationPrincipal SignedIn me) {
        return add(wanted, null, me);
    }

    /** The asker's own: they count for the asker's sources alone. */
    @PostMapping("/api/exclusions/mine")
    @LargestBody(kilobytes = 4096)
    AddedExclusions addMine(@RequestBody NewExclusions wanted, @AuthenticationPrincipal SignedIn me) {
        if (!settings.ownExclusions()) {
            throw Refusal.of(
                    HttpStatus.FORBIDDEN, "People may not exclude for themselves here", "Ask an administrator.");
        }
        if (me.person() == null) {
            throw Refusal.bad("Your sign-in is no person of the company", "Nothing is captured for it.");
        }
        return add(wanted, me.person(), me);
    }

    private AddedExclusions add(NewExclusions wanted, @Nullable UUID person, SignedIn me) {
        List<Exclusion> all = text.read(wanted, person);
        List<Exclusion> added = exclusions.add(all, me.login());
        nudges.rulesChanged();
        return new AddedExclusions(
                bare(added), bare(all.stream().filter(e -> !added.contains(e)).toList()), reopener.left());
    }

    private static List<String> bare(List<Exclusion> exclusions) {
        return exclusions.stream().map(e -> ExclusionText.bare(e.what())).toList();
    }

    @DeleteMapping("/api/exclusions/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable("id") UUID id, @AuthenticationPrincipal SignedIn me) {
        if (mine(Set.of(id), me).isEmpty()
                || exclusions.remove(Set.of(id), me.login()).isEmpty()) {
            throw Refusal.notFound("exclusion");
        }
        nudges.rulesChanged();
    }

    /** Several at once: all of them, or none. */
    @PostMapping("/api/exclusions/removal")
    @LargestBody(kilobytes = 1024)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@RequestBody RemovedExclusions wanted, @AuthenticationPrincipal SignedIn me) {
        if (wanted.ids() == null || wanted.ids().isEmpty() || wanted.ids().contains(null)) {
            throw Refusal.bad("No exclusions are named", "Give the ids of those to remove.");
        }
        Set<UUID> ids = Set.copyOf(wanted.ids());
        Set<UUID> mine = mine(ids, me);
        if (mine.size() < ids.size()) {
            throw Refusal.of(
                    HttpStatus.NOT_FOUND,
                    "There are no such exclusions",
                    "None was removed. Unknown: "
                            + ids.stream()
                                    .filter(id -> !mine.contains(id))
                                    .map(UUID::toString)
                                    .sorted()
                                    .limit(MOST_NAMED)
                                    .collect(Collectors.joining(", "))
                            + ".");
        }
        exclusions.remove(ids, me.login());
        nudges.rulesChanged();
    }

    /** Those of these that the asker may remove. */
    private Set<UUID> mine(Set<UUID> ids, SignedIn me) {
        return exclusions.find(ids).stream()
                .filter(e -> e.limits().person() == null
                        ? me.role() == Role.ADMINISTRATOR
                        : e.limits().person().equals(me.person()))
                .map(Exclusion::id)
                .collect(Collectors.toSet());
    }

    @GetMapping(path = "/api/exclusions.csv", produces = "text/csv")
    void export(@AuthenticationPrincipal SignedIn me, HttpServletResponse response) throws IOException {
        response.setContentType("text/csv");
        response.setCharacterEncoding("UTF-8");
        response.setHeader("Content-Disposition", "attachment; filename=exclusions.csv");
        CsvOut out =
                new CsvOut(response.getWriter(), "kind", "what", "reason", "last_day", "added_by", "added_at", "items");
        for (ExclusionInfo e : all(me)) {
            out.row(
                    e.kind(),
                    e.what(),
                    e.reason(),
                    e.lastDay() == null ? "" : e.lastDay(),
                    e.addedBy(),
                    e.addedAt(),
                    e.items());
        }
    }
}
