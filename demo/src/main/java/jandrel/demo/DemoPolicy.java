package jandrel.demo;

import jandrel.api.PolicyApi.AudienceInfo;
import jandrel.api.PolicyApi.BookRule;
import jandrel.api.PolicyApi.KeepingRules;
import jandrel.api.PolicyApi.PolicyRules;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The safe policy, with what a story or a test wants otherwise. */
public record DemoPolicy(
        String name,
        AudienceInfo audience,
        String sharing,
        boolean sent,
        int backDays,
        int aheadDays,
        boolean outwards,
        String contacts,
        @Nullable BookRule books) {
    public static DemoPolicy of(String name) {
        return new DemoPolicy(name, audience(false), "everyone", true, 90, 60, false, "none", null);
    }

    private static AudienceInfo audience(boolean everyone, String... teams) {
        return new AudienceInfo(everyone, List.of(), List.of(teams), List.of());
    }

    public DemoPolicy everyone() {
        return new DemoPolicy(name, audience(true), sharing, sent, backDays, aheadDays, outwards, contacts, books);
    }

    public DemoPolicy teams(String... teams) {
        return new DemoPolicy(
                name, audience(false, teams), sharing, sent, backDays, aheadDays, outwards, contacts, books);
    }

    public DemoPolicy sharing(String wanted) {
        return new DemoPolicy(name, audience, wanted, sent, backDays, aheadDays, outwards, contacts, books);
    }

    public DemoPolicy withoutSent() {
        return new DemoPolicy(name, audience, sharing, false, backDays, aheadDays, outwards, contacts, books);
    }

    /** @param ahead days, for meetings */
    public DemoPolicy days(int back, int ahead) {
        return new DemoPolicy(name, audience, sharing, sent, back, ahead, outwards, contacts, books);
    }

    /** Meetings flow both ways, and all that is made here goes out. */
    public DemoPolicy bothWays() {
        return new DemoPolicy(name, audience, sharing, sent, backDays, aheadDays, true, contacts, books);
    }

    /** @param direction which way contacts flow */
    public DemoPolicy contacts(String direction) {
        return new DemoPolicy(name, audience, sharing, sent, backDays, aheadDays, outwards, direction, books);
    }

    /** @param rule which cards and contacts */
    public DemoPolicy books(BookRule rule) {
        return new DemoPolicy(name, audience, sharing, sent, backDays, aheadDays, outwards, contacts, rule);
    }

    public PolicyRules rules() {
        return new PolicyRules(
                name,
                audience,
                true,
                sent,
                outwards ? "both" : "in",
                contacts,
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
                outwards ? List.of("meeting", "call", "follow-up") : List.of(),
                outwards
                        ? new KeepingRules("{title}", true, "later", false, "remove", false, List.of("no-show"))
                        : null,
                null,
                null,
                books,
                null);
    }
}
