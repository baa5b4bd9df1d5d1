package jandrel.demo;

import jandrel.api.Policies.AudienceInfo;
import jandrel.api.Policies.PolicyRules;
import java.util.List;

/** The safe policy, with what a story or a test wants otherwise. */
public record Rules(String name, AudienceInfo audience, String sharing, boolean sent, int backDays, int aheadDays) {
    public static Rules of(String name) {
        return new Rules(name, audience(false), "everyone", true, 90, 60);
    }

    private static AudienceInfo audience(boolean everyone, String... teams) {
        return new AudienceInfo(everyone, List.of(), List.of(teams), List.of());
    }

    public Rules everyone() {
        return new Rules(name, audience(true), sharing, sent, backDays, aheadDays);
    }

    public Rules teams(String... teams) {
        return new Rules(name, audience(false, teams), sharing, sent, backDays, aheadDays);
    }

    public Rules sharing(String wanted) {
        return new Rules(name, audience, wanted, sent, backDays, aheadDays);
    }

    public Rules withoutSent() {
        return new Rules(name, audience, sharing, false, backDays, aheadDays);
    }

    /** @param ahead days, for meetings */
    public Rules days(int back, int ahead) {
        return new Rules(name, audience, sharing, sent, back, ahead);
    }

    public PolicyRules rules() {
        return new PolicyRules(
                name,
                audience,
                true,
                sent,
                "in",
                "none",
                backDays,
                aheadDays,
                "outline",
                "remove",
                "remove",
                "keep",
                "",
                "each-occurrence",
                List.of("contact", "lead", "account", "opportunity"),
                "owner-then-recent",
                false,
                sharing,
                0,
                List.of(),
                List.of(),
                List.of());
    }
}
