package jandrel.service.policy;

import jandrel.api.DirectoryApi.LineProblem;
import jandrel.api.ExclusionApi.CheckedLine;
import jandrel.api.ExclusionApi.NewExclusions;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.Exclusion.Kind;
import jandrel.core.directory.Exclusion.Limits;
import jandrel.core.directory.PastedExclusions;
import jandrel.core.directory.PastedExclusions.Line;
import jandrel.service.kernel.Refusal;
import jandrel.store.directory.Company;
import jandrel.store.policy.Exclusions;
import jandrel.store.policy.Policies;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Pasted exclusions: checked line by line, taken whole or not at all. */
@Component
public class ExclusionText {
    private static final int MOST_LINES = 50_000;
    private static final int LONGEST_REASON = 300;
    private final Exclusions exclusions;
    private final Company company;
    private final Policies policies;

    ExclusionText(Exclusions exclusions, Company company, Policies policies) {
        this.exclusions = exclusions;
        this.company = company;
        this.policies = policies;
    }

    List<CheckedLine> checked(NewExclusions wanted) {
        List<Line> lines = lines(wanted);
        Set<String> known =
                exclusions.known(lines.stream().map(Line::what).collect(Collectors.toSet()), wanted.policy());
        return lines.stream()
                .map(l -> new CheckedLine(
                        l.line(),
                        l.text(),
                        l.kind() == null ? "" : l.kind().word(),
                        bare(l.what()),
                        l.problem(),
                        known.contains(l.kind() + " " + l.what())))
                .toList();
    }

    private List<Line> lines(NewExclusions wanted) {
        if (wanted.text().lines().count() > MOST_LINES) {
            throw Refusal.bad("These are too many at once", "Add " + MOST_LINES + " lines at a time.");
        }
        return PastedExclusions.read(wanted.text(), kind(wanted.kind()), company.ownDomains());
    }

    static @Nullable Kind kind(@Nullable String word) {
        if (word == null || word.isBlank()) {
            return null;
        }
        return Arrays.stream(Kind.values())
                .filter(k -> k.word().equals(word))
                .findFirst()
                .orElseThrow(() -> Refusal.bad(
                        "There is no kind of exclusion “" + word + "”",
                        "Kinds are "
                                + Arrays.stream(Kind.values()).map(Kind::word).collect(Collectors.joining(", "))
                                + "."));
    }

    /** @param person whose own they are; null when they count for all */
    public List<Exclusion> read(NewExclusions wanted, @Nullable UUID person) {
        String reason = wanted.reason() == null ? "" : wanted.reason().strip();
        if (reason.length() > LONGEST_REASON) {
            throw Refusal.bad("The reason is too long", "Say it in " + LONGEST_REASON + " characters.");
        }
        if (wanted.policy() != null && policies.find(wanted.policy()).isEmpty()) {
            throw Refusal.notFound("policy");
        }
        Limits limits = new Limits(wanted.policy(), person, CoverageCalls.day(wanted.lastDay()));
        List<Line> lines = lines(wanted);
        List<LineProblem> problems = lines.stream()
                .filter(l -> !l.fits())
                .map(l -> new LineProblem(l.line(), "", "“" + l.text() + "”: " + l.problem()))
                .toList();
        if (!problems.isEmpty()) {
            long bad = new HashSet<>(problems.stream().map(LineProblem::line).toList()).size();
            throw Refusal.misfit(
                    "Nothing was added: " + bad + (bad == 1 ? " line does" : " lines do") + " not fit",
                    "Mend what stands below, then add them all again.",
                    problems);
        }
        Map<String, Exclusion> once = new LinkedHashMap<>();
        for (Line l : lines) {
            Kind kind = Objects.requireNonNull(l.kind());
            once.put(kind + " " + l.what(), new Exclusion(UUID.randomUUID(), kind, l.what(), reason, limits));
        }
        if (once.isEmpty()) {
            throw Refusal.bad("There is nothing to add", "Give an address or a domain a line.");
        }
        return List.copyOf(once.values());
    }

    public static String bare(String what) {
        return what.startsWith("@") ? what.substring(1) : what;
    }
}
