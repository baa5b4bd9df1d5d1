package jandrel.service.policy;

import jandrel.api.Policies.PolicyInfo;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.service.Refusal;
import jandrel.service.capture.Nudges;
import jandrel.service.people.SignedIn;
import jandrel.store.Policies;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

@RestController
class PolicyCalls {
    private final Policies policies;
    private final Nudges nudges;

    PolicyCalls(Policies policies, Nudges nudges) {
        this.policies = policies;
        this.nudges = nudges;
    }

    @GetMapping("/api/policy")
    PolicyInfo current() {
        return shown(policies.current());
    }

    @PutMapping("/api/policy")
    PolicyInfo change(@RequestBody PolicyInfo wanted, @AuthenticationPrincipal SignedIn me) {
        if (wanted.backDays() < 0
                || wanted.backDays() > Policy.MOST_DAYS
                || wanted.aheadDays() < 0
                || wanted.aheadDays() > Policy.MOST_DAYS) {
            throw Refusal.bad("The days back or ahead are out of range", "They go from 0 to " + Policy.MOST_DAYS + ".");
        }
        Sharing sharing = switch (wanted.sharing()) {
            case "everyone" -> Sharing.EVERYONE;
            case "those-on-it" -> Sharing.THOSE_ON_IT;
            default ->
                throw Refusal.bad("There is no sharing “" + wanted.sharing() + "”", "It is everyone or those-on-it.");
        };
        Policy changed = policies.change(
                new Policy(
                        wanted.version(),
                        wanted.mail(),
                        wanted.meetings(),
                        wanted.backDays(),
                        wanted.aheadDays(),
                        sharing),
                me.login());
        nudges.rulesChanged();
        return shown(changed);
    }

    private static PolicyInfo shown(Policy p) {
        return new PolicyInfo(
                p.version(),
                p.mail(),
                p.meetings(),
                p.backDays(),
                p.aheadDays(),
                p.sharing() == Sharing.EVERYONE ? "everyone" : "those-on-it");
    }
}
