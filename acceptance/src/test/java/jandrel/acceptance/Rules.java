package jandrel.acceptance;

import jandrel.api.Policies.AudienceInfo;
import jandrel.api.Policies.PolicyRules;
import java.util.List;

/** The safe policy, with what a test wants otherwise. */
record Rules(String name, AudienceInfo audience, String sharing, boolean sent, int backDays) {
    static Rules of(String name) {
        return new Rules(name, new AudienceInfo(false, List.of(), List.of(), List.of()), "everyone", true, 90);
    }

    Rules everyone() {
        return new Rules(name, new AudienceInfo(true, List.of(), List.of(), List.of()), sharing, sent, backDays);
    }

    Rules teams(String... teams) {
        return new Rules(name, new AudienceInfo(false, List.of(), List.of(teams), List.of()), sharing, sent, backDays);
    }

    Rules sharing(String wanted) {
        return new Rules(name, audience, wanted, sent, backDays);
    }

    Rules withoutSent() {
        return new Rules(name, audience, sharing, false, backDays);
    }

    PolicyRules rules() {
        return new PolicyRules(
                name,
                audience,
                true,
                sent,
                "in",
                "none",
                backDays,
                60,
                "outline",
                "remove",
                "remove",
                "each-occurrence",
                List.of("contact", "account", "opportunity"),
                "owner-then-recent",
                sharing,
                0,
                List.of(),
                List.of(),
                List.of());
    }
}
