package jandrel.service.policy;

import jandrel.api.PolicyApi.CoverEnd;
import jandrel.api.PolicyApi.CoverageInfo;
import jandrel.api.PolicyApi.OwnPolicy;
import jandrel.api.PolicyApi.OwnSharing;
import jandrel.core.policy.Differences;
import jandrel.core.policy.Policy.Sharing;
import jandrel.service.connections.SyncScheduler;
import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.people.CoverPeriod;
import jandrel.store.policy.Policies;
import jandrel.store.policy.Roster;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Everybody of the company, and how capture stands for them. */
@RestController
class CoverageCalls {
    /** Worst first: what of several connections a person's line tells. */
    private static final List<String> WORST_FIRST = List.of(
            "refused",
            "needs-sign-in",
            "broken",
            "unreachable",
            "waiting-for-consent",
            "overdue",
            "paused",
            "connecting",
            "capturing",
            "disconnected");

    private final Roster roster;
    private final Policies policies;
    private final CoverPeriod periods;
    private final WakeUp nudges;
    private final SyncScheduler looks;
    private final Clock clock;

    CoverageCalls(
            Roster roster, Policies policies, CoverPeriod periods, WakeUp nudges, SyncScheduler looks, Clock clock) {
        this.looks = looks;
        this.roster = roster;
        this.policies = policies;
        this.periods = periods;
        this.nudges = nudges;
        this.clock = clock;
    }

    /** The lines of those in one’s oversight: a rep’s own, a team’s, or everybody’s. */
    @GetMapping("/api/coverage")
    List<CoverageInfo> all(@AuthenticationPrincipal SignedIn me) {
        return roster.all().stream()
                .filter(p -> me.oversight().covers(p.id()))
                .map(this::shown)
                .toList();
    }

    /** In words, for the person it covers: policies themselves are for those who look after them. */
    @GetMapping("/api/own-policy")
    OwnPolicy own(@AuthenticationPrincipal SignedIn me) {
        UUID person = me.person();
        return Optional.ofNullable(person)
                .flatMap(policies::of)
                .map(p -> new OwnPolicy(p.name(), Differences.sentences(p, ZoneOffset.UTC)))
                .orElse(new OwnPolicy(null, List.of()));
    }

    private CoverageInfo shown(Roster.Listed p) {
        Instant now = clock.instant();
        return new CoverageInfo(
                p.id(),
                p.key(),
                p.name(),
                p.team(),
                p.role(),
                List.of(p.addresses()),
                p.policy(),
                p.policyName(),
                p.covered(),
                p.why(),
                state(p, LocalDate.ofInstant(now, ZoneOffset.UTC)),
                p.coverUntil() == null ? null : p.coverUntil().toString(),
                PolicyWords.word(Sharing.valueOf(p.sharing())),
                p.lastItem(),
                p.lastItem() == null
                        ? null
                        : Math.max(0, Duration.between(p.lastItem(), now).toDays()));
    }

    private static String state(Roster.Listed p, LocalDate today) {
        if (!p.covered()) {
            return "not-covered";
        }
        if (p.coverUntil() != null && !today.isBefore(p.coverUntil())) {
            return "ended";
        }
        if (!p.enabled()) {
            return "switched-off";
        }
        return Arrays.stream(p.states())
                .min(java.util.Comparator.comparingInt(WORST_FIRST::indexOf))
                .filter(s -> !s.equals("disconnected"))
                .orElse("not-connected");
    }

    @PutMapping("/api/people/{id}/cover")
    CoverageInfo end(@PathVariable("id") UUID id, @RequestBody CoverEnd wanted, @AuthenticationPrincipal SignedIn me) {
        known(id);
        periods.end(id, day(wanted.until()), me.login());
        nudges.rulesChanged();
        looks.nowFor(id);
        return shown(known(id));
    }

    static @Nullable LocalDate day(@Nullable String text) {
        if (text == null || text.isBlank()) {
            return null;
        }
        try {
            return LocalDate.parse(text.strip());
        } catch (DateTimeParseException no) {
            throw Refusal.bad("“" + text + "” is not a day", "Write it as 2026-12-31.");
        }
    }

    /** Everybody chooses for themselves; it only ever narrows what the policy says. */
    @PutMapping("/api/people/{id}/sharing")
    CoverageInfo share(
            @PathVariable("id") UUID id, @RequestBody OwnSharing wanted, @AuthenticationPrincipal SignedIn me) {
        if (!id.equals(me.person())) {
            throw Refusal.notFound("person of yours");
        }
        Sharing sharing = Arrays.stream(Sharing.values())
                .filter(s -> PolicyWords.word(s).equals(wanted.sharing()))
                .findFirst()
                .orElseThrow(() -> Refusal.bad(
                        "There is no sharing “" + wanted.sharing() + "”",
                        "It is everyone (as the policy says), team, those-on-it or owner."));
        roster.sharing(id, sharing, me.login());
        nudges.rulesChanged();
        return shown(known(id));
    }

    private Roster.Listed known(UUID id) {
        return roster.one(id).orElseThrow(() -> Refusal.notFound("person"));
    }
}
