package jandrel.service.policy;

import jandrel.api.Directories.LineProblem;
import jandrel.api.Exclusions.AddedExclusions;
import jandrel.api.Exclusions.ExclusionInfo;
import jandrel.api.Exclusions.NewExclusions;
import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.Exclusion;
import jandrel.service.Refusal;
import jandrel.service.capture.Nudges;
import jandrel.service.people.SignedIn;
import jandrel.store.Company;
import jandrel.store.Exclusions;
import jandrel.store.Reconsidering;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Exclusions: many at once, each line checked before any is taken. */
@RestController
class ExclusionCalls {
    private static final int MOST_LINES = 50_000;
    private static final int LONGEST_REASON = 300;
    private final Exclusions exclusions;
    private final Company company;
    private final Reconsidering reconsidering;
    private final Nudges nudges;

    ExclusionCalls(Exclusions exclusions, Company company, Reconsidering reconsidering, Nudges nudges) {
        this.exclusions = exclusions;
        this.company = company;
        this.reconsidering = reconsidering;
        this.nudges = nudges;
    }

    @GetMapping("/api/exclusions")
    List<ExclusionInfo> all() {
        return exclusions.all().stream().map(ExclusionCalls::shown).toList();
    }

    private static ExclusionInfo shown(Exclusions.Listed e) {
        boolean domain = e.key().startsWith("@");
        return new ExclusionInfo(
                e.id(),
                domain ? "domain" : "address",
                domain ? e.key().substring(1) : e.key(),
                e.reason(),
                e.addedBy(),
                e.addedAt(),
                e.items());
    }

    @PostMapping("/api/exclusions")
    AddedExclusions add(@RequestBody NewExclusions wanted, @AuthenticationPrincipal SignedIn me) {
        String reason = wanted.reason() == null ? "" : wanted.reason().strip();
        if (reason.length() > LONGEST_REASON) {
            throw Refusal.bad("The reason is too long", "Say it in " + LONGEST_REASON + " characters.");
        }
        List<String> keys = keys(wanted.text());
        List<String> added = exclusions.add(
                keys.stream()
                        .map(k -> new Exclusion(UUID.randomUUID(), k, reason))
                        .toList(),
                me.login());
        nudges.rulesChanged();
        List<String> known = keys.stream().filter(k -> !added.contains(k)).toList();
        return new AddedExclusions(bare(added), bare(known), reconsidering.left());
    }

    private List<String> keys(String text) {
        Map<String, Integer> keys = new LinkedHashMap<>();
        List<LineProblem> problems = new ArrayList<>();
        String[] lines = text.split("\\R", -1);
        if (lines.length > MOST_LINES) {
            throw Refusal.bad("These are too many at once", "Add " + MOST_LINES + " lines at a time.");
        }
        for (int i = 0; i < lines.length; i++) {
            for (String part : lines[i].split("[,;]")) {
                if (!part.isBlank()) {
                    read(part.strip(), i + 1, keys, problems);
                }
            }
        }
        if (!problems.isEmpty()) {
            throw Refusal.misfit(
                    "Nothing was added: " + problems.size() + (problems.size() == 1 ? " line does" : " lines do")
                            + " not fit",
                    "Mend what stands below, then add them all again.",
                    problems);
        }
        if (keys.isEmpty()) {
            throw Refusal.bad("There is nothing to add", "Give an address or a domain a line.");
        }
        return List.copyOf(keys.keySet());
    }

    private void read(String part, int line, Map<String, Integer> keys, List<LineProblem> problems) {
        int open = part.lastIndexOf('<');
        String bare = open >= 0 && part.endsWith(">") ? part.substring(open) : part;
        Optional<String> key = EmailAddress.parse(bare)
                .map(EmailAddress::toString)
                .or(() -> DomainName.parse(bare).map(DomainName::key));
        if (key.isEmpty()) {
            problems.add(new LineProblem(line, "", "“" + part + "” is neither an address nor a domain"));
        } else if (company.ownDomains().contains(key.get())) {
            problems.add(new LineProblem(
                    line, "", "“" + part + "” is a domain of our own company: excluding it would stop all capture"));
        } else if (DomainName.parse(bare).filter(DomainName::isPublicSuffix).isPresent()) {
            problems.add(new LineProblem(line, "", "“" + part + "” takes in everybody under that suffix"));
        } else {
            keys.put(key.get(), line);
        }
    }

    private static List<String> bare(List<String> keys) {
        return keys.stream().map(k -> k.startsWith("@") ? k.substring(1) : k).toList();
    }

    @DeleteMapping("/api/exclusions/{id}")
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void remove(@PathVariable("id") UUID id) {
        if (exclusions.remove(id).isEmpty()) {
            throw Refusal.notFound("exclusion");
        }
        nudges.rulesChanged();
    }
}
