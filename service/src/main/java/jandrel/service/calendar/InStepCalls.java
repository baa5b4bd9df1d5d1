package jandrel.service.calendar;

import jandrel.api.Meetings.CalendarStand;
import jandrel.api.Meetings.HereStand;
import jandrel.api.Meetings.InStepPage;
import jandrel.core.policy.Policy.OutwardKind;
import jandrel.core.visibility.Role;
import jandrel.service.capture.Outgoing;
import jandrel.service.people.SignedIn;
import jandrel.store.InStep;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** How calendars stand with what was made or changed here: one's own, for a rep; all of them for everybody else. */
@RestController
class InStepCalls {
    private final InStep inStep;
    private final Outgoing outgoing;
    private final Clock clock;

    InStepCalls(InStep inStep, Outgoing outgoing, Clock clock) {
        this.inStep = inStep;
        this.outgoing = outgoing;
        this.clock = clock;
    }

    @GetMapping("/api/in-step")
    InStepPage page(@AuthenticationPrincipal SignedIn me) {
        UUID only = me.role() == Role.REP ? me.person() : null;
        if (me.role() == Role.REP && only == null) {
            return new InStepPage(List.of(), List.of());
        }
        List<CalendarStand> calendars =
                inStep.calendars(only).stream().map(c -> shown(c, me)).toList();
        return new InStepPage(calendars, here(only));
    }

    private CalendarStand shown(InStep.Calendar c, SignedIn me) {
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
                c.news(),
                outgoing.reaches(c.person()),
                c.outgoing(),
                !c.held().isEmpty(),
                mine || me.role() == Role.ADMINISTRATOR,
                c.alike(),
                c.owed(),
                c.stuck(),
                c.conflicts());
    }

    /** What could go out now. */
    private List<HereStand> here(@Nullable UUID only) {
        Map<UUID, HereStand> here = new LinkedHashMap<>();
        for (InStep.Here h : inStep.here(only, clock.instant())) {
            boolean could = outgoing.sends(h.person(), OutwardKind.valueOf(h.sort()));
            HereStand before = here.get(h.person());
            here.put(
                    h.person(),
                    new HereStand(
                            h.person(),
                            h.personName(),
                            (before == null ? 0 : before.meetings()) + h.count(),
                            (before == null ? 0 : before.couldGo()) + (could ? h.count() : 0)));
        }
        return List.copyOf(here.values());
    }
}
