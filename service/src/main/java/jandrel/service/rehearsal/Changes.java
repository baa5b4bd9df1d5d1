package jandrel.service.rehearsal;

import jandrel.api.RehearsalApi.Change;
import jandrel.api.RehearsalApi.Report;
import jandrel.core.address.DomainName;
import jandrel.core.directory.Exclusion;
import jandrel.core.policy.Creation;
import jandrel.core.policy.Policy;
import jandrel.core.rehearse.Draft;
import jandrel.service.kernel.Refusal;
import jandrel.service.policy.ExclusionText;
import jandrel.service.policy.PolicyImport;
import jandrel.service.policy.PolicyWords;
import jandrel.store.directory.Company;
import jandrel.store.directory.OwnFieldList;
import jandrel.store.policy.Exclusions;
import jandrel.store.policy.Policies;
import jandrel.store.rehearsal.Rehearsals;
import jandrel.store.rehearsal.Rehearsals.Row;
import jandrel.store.rehearsal.Rehearsing;
import jandrel.store.triage.Strangers;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** A change of the rules as the API writes it: as a draft to be rehearsed, and as what is then done, exactly the same. */
@Component
public class Changes {
    private final Policies policies;
    private final Exclusions exclusions;
    private final Company company;
    private final ExclusionText text;
    private final PolicyImport file;
    private final Rehearsals rehearsals;
    private final Rehearsing rehearsing;
    private final Strangers strangers;
    private final JsonMapper json;
    private final OwnFieldList own;
    private final Clock clock;

    Changes(
            Policies policies,
            Exclusions exclusions,
            Company company,
            ExclusionText text,
            PolicyImport file,
            Rehearsals rehearsals,
            Rehearsing rehearsing,
            Strangers strangers,
            JsonMapper json,
            OwnFieldList own,
            Clock clock) {
        this.own = own;
        this.strangers = strangers;
        this.clock = clock;
        this.policies = policies;
        this.exclusions = exclusions;
        this.company = company;
        this.text = text;
        this.file = file;
        this.rehearsals = rehearsals;
        this.rehearsing = rehearsing;
        this.json = json;
    }

    Draft draft(Change change) {
        Optional<List<Policy>> inOrder = Optional.empty();
        if (change.file() != null) {
            inOrder = Optional.of(file.read(change.file()).stream()
                    .map(PolicyImport.Wanted::policy)
                    .toList());
        } else if (change.rules() != null || change.order() != null) {
            inOrder = Optional.of(inOrder(change));
        }
        boolean domains = change.own() != null || change.freeMail() != null;
        return new Draft(
                inOrder,
                excluded(change),
                change.include() == null ? Set.of() : Set.copyOf(change.include()),
                domains ? Optional.of(own(change)) : Optional.empty(),
                domains ? Optional.of(freeMail(change)) : Optional.empty());
    }

    private List<Exclusion> excluded(Change change) {
        return change.exclude() == null ? List.of() : text.read(change.exclude(), null);
    }

    private List<Policy> inOrder(Change change) {
        List<Policy> all = new ArrayList<>(policies.inOrder());
        if (change.rules() != null) {
            Policy wanted = wanted(change);
            if (change.policy() == null) {
                all.add(0, wanted);
            } else {
                all.replaceAll(p -> p.id().equals(wanted.id()) ? wanted : p);
            }
        }
        List<UUID> order = change.order();
        if (order != null) {
            all.sort(java.util.Comparator.comparingInt(p -> {
                int at = order.indexOf(p.id());
                return at < 0 ? -1 : at;
            }));
        }
        return all;
    }

    private Policy wanted(Change change) {
        UUID id = change.policy() == null ? UUID.randomUUID() : change.policy();
        int version = change.version() == null ? 1 : change.version();
        return PolicyWords.policy(id, version, Objects.requireNonNull(change.rules()), own.fields());
    }

    private Set<String> own(Change change) {
        return change.own() == null ? Set.copyOf(company.ownDomains()) : keys(change.own());
    }

    private Set<String> freeMail(Change change) {
        return change.freeMail() == null ? Set.copyOf(company.freeMail()) : keys(change.freeMail());
    }

    private static Set<String> keys(List<String> domains) {
        Set<String> keys = new LinkedHashSet<>();
        for (String domain : domains) {
            keys.add(DomainName.parse(domain)
                    .orElseThrow(() -> Refusal.bad("“" + domain + "” is not a domain name", "Mend it, then try again."))
                    .key());
        }
        return keys;
    }

    /** What the numbers of a rehearsal cannot say of this change. */
    List<String> notes(Change change) {
        List<String> notes = new ArrayList<>();
        if (change.rules() != null && change.policy() != null) {
            policies.find(change.policy()).ifPresent(before -> {
                Policy after = wanted(change);
                int further = after.scope().backDays() - before.policy().scope().backDays();
                if (further > 0) {
                    notes.add("Looking " + further
                            + " days further back brings mail and meetings that were never looked at: "
                            + "how many is known only when they are fetched.");
                }
                if (after.scope().aheadDays() > before.policy().scope().aheadDays()) {
                    notes.add("Looking further ahead brings occurrences of series that are not known yet.");
                }
                if (!before.enabled()) {
                    notes.add(
                            "The policy is switched off: its people’s sources are not looked at until it is switched on.");
                }
                if (!after.creation().equals(before.policy().creation())
                        && after.creation().makes() != Creation.Makes.NOTHING) {
                    int met = strangers
                            .meeting(after.id(), after.creation(), clock.instant())
                            .size();
                    notes.add((met == 1 ? "1 stranger" : met + " strangers") + " would become "
                            + PolicyWords.word(after.creation().makes())
                            + " within a minute, and their items follow; it can be undone as a batch.");
                }
                if (!after.scope().folders().equals(before.policy().scope().folders())) {
                    notes.add("What is in folders that were not looked at until now is known only when it is fetched.");
                }
                after.notActiveYet().forEach(notes::add);
            });
        }
        return notes;
    }

    /** Makes a rehearsed change, if the rules are still those that it was rehearsed under. Its examples are let go of. */
    @Transactional
    void apply(Row rehearsal, String by) {
        if (!rehearsing.stillAt(rehearsal.generation())) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "The rules have changed since this was rehearsed",
                    "Rehearse it once more: the numbers may be others now.");
        }
        Change back = make(json.readValue(rehearsal.change(), Change.class), by);
        Report report = json.readValue(Objects.requireNonNull(rehearsal.report()), Report.class);
        rehearsals.applied(
                rehearsal.id(),
                json.writeValueAsString(report.withoutExamples()),
                back == null ? null : json.writeValueAsString(back));
    }

    @Transactional
    void takeBack(Row rehearsal, String by) {
        make(json.readValue(Objects.requireNonNull(rehearsal.undo()), Change.class), by);
        rehearsals.undone(rehearsal.id());
    }

    /**
     * Makes the change, in one transaction.
     *
     * @return the change that takes it back; null when none does in one step
     */
    @Transactional
    @Nullable
    public Change make(Change change, String by) {
        Change back = back(change);
        if (change.file() != null) {
            file.apply(change.file(), by);
        }
        if (change.rules() != null) {
            Policy wanted = wanted(change);
            if (change.policy() == null) {
                policies.add(wanted, by);
            } else {
                policies.change(wanted, by);
            }
        }
        if (change.order() != null) {
            policies.order(change.order(), by);
        }
        List<Exclusion> added = exclusions.add(excluded(change), by);
        if (change.include() != null) {
            exclusions.remove(change.include(), by);
        }
        if (change.own() != null || change.freeMail() != null) {
            company.change(own(change), freeMail(change), by);
        }
        return back == null || added.isEmpty()
                ? back
                : new Change(
                        back.policy(),
                        back.version(),
                        back.rules(),
                        back.order(),
                        back.exclude(),
                        added.stream().map(Exclusion::id).toList(),
                        back.own(),
                        back.freeMail(),
                        back.file());
    }

    private @Nullable Change back(Change change) {
        if (change.rules() != null && change.policy() == null) {
            return null;
        }
        if (change.include() != null && !change.include().isEmpty()) {
            return null;
        }
        Policy before = change.policy() == null
                ? null
                : policies.find(change.policy()).map(Policies.Kept::policy).orElse(null);
        boolean domains = change.own() != null || change.freeMail() != null;
        return new Change(
                before == null ? null : before.id(),
                before == null ? null : before.version() + 1,
                before == null ? null : PolicyWords.rules(before),
                change.order() == null
                        ? null
                        : policies.inOrder().stream().map(Policy::id).toList(),
                null,
                null,
                domains ? bare(company.ownDomains()) : null,
                domains ? bare(company.freeMail()) : null,
                change.file() == null ? null : file.all());
    }

    private static List<String> bare(List<String> keys) {
        return keys.stream().map(k -> k.substring(1)).toList();
    }
}
