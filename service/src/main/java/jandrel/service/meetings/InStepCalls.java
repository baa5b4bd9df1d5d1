package jandrel.service.meetings;

import jandrel.api.MeetingApi.CalendarStand;
import jandrel.api.MeetingApi.HereStand;
import jandrel.api.MeetingApi.InStepPage;
import jandrel.api.MeetingApi.RunCounts;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.OutwardKind;
import jandrel.core.visibility.Role;
import jandrel.service.people.SignedIn;
import jandrel.store.meetings.InStep;
import jandrel.store.policy.Policies;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** How calendars stand with what was made or changed here: one's own, for a rep; all of them for everybody else. */
@RestController
class InStepCalls {
    private final InStep inStep;
    private final Policies policies;
    private final Clock clock;

    InStepCalls(InStep inStep, Policies policies, Clock clock) {
        this.inStep = inStep;
        this.policies = policies;
        this.clock = clock;
    }

    @GetMapping("/api/in-step")
    InStepPage page(@AuthenticationPrincipal SignedIn me) {
        UUID[] overseen = me.oversight().limit();
        List<InStep.Calendar> calendars = inStep.calendars(overseen);
        List<InStep.Here> here = inStep.here(overseen, clock.instant());
        Map<UUID, Policy> covering = policies.of(Stream.concat(
                        calendars.stream().map(InStep.Calendar::person),
                        here.stream().map(InStep.Here::person))
                .collect(Collectors.toSet()));
        return new InStepPage(
                calendars.stream()
                        .map(c -> shown(c, covering.get(c.person()), me))
                        .toList(),
                couldGo(here, covering));
    }

    private CalendarStand shown(InStep.Calendar c, @Nullable Policy policy, SignedIn me) {
        boolean mine = c.person().equals(me.person());
        return new CalendarStand(
                c.source(),
                c.label(),
                c.colour(),
                c.connection(),
                c.person(),
                c.personName(),
                c.state(),
                c.lastRun(),
                c.due(),
                counts(c),
                policy != null && policy.scope().meetings().goesOut(),
                c.outgoing(),
                c.held(),
                mine || me.role() == Role.ADMINISTRATOR,
                c.alike(),
                c.pendingSync(),
                c.stuck(),
                c.conflicts());
    }

    private static @Nullable RunCounts counts(InStep.Calendar c) {
        return c.read() == null
                ? null
                : new RunCounts(
                        c.read(),
                        Objects.requireNonNull(c.gone()),
                        Objects.requireNonNull(c.sent()),
                        Objects.requireNonNull(c.received()),
                        Objects.requireNonNull(c.merged()),
                        Objects.requireNonNull(c.refused()));
    }

    /** What could go out now. */
    private static List<HereStand> couldGo(List<InStep.Here> here, Map<UUID, Policy> covering) {
        Map<UUID, HereStand> stands = new LinkedHashMap<>();
        for (InStep.Here h : here) {
            Policy policy = covering.get(h.person());
            boolean could = policy != null && policy.sends(OutwardKind.valueOf(h.sort()));
            HereStand before = stands.get(h.person());
            stands.put(
                    h.person(),
                    new HereStand(
                            h.person(),
                            h.personName(),
                            (before == null ? 0 : before.meetings()) + h.count(),
                            (before == null ? 0 : before.couldGo()) + (could ? h.count() : 0)));
        }
        return List.copyOf(stands.values());
    }
}
