package jandrel.client;

import jandrel.api.PolicyApi.OpeningInfo;
import jandrel.api.PolicyApi.OpeningTrial;
import jandrel.api.PolicyApi.WouldOpen;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** What meetings would have opened. */
@Command(
        name = "would-open",
        description = "Which opportunities the meetings of the last days would have opened or joined; nothing is done.")
final class WouldOpenCommand extends OnePolicy {
    @Option(names = "--days", description = "How many days back; 90 unless you say otherwise.")
    private int days = 90;

    @Option(names = "--limit", description = "At most so many meetings are listed; 15 unless you say otherwise.")
    private int limit = 15;

    @Mixin
    private final OpeningOptions options = new OpeningOptions();

    @Override
    public Integer call() {
        var policy = policy();
        WouldOpen would = main().http()
                .send(
                        "POST",
                        "/api/policies/" + policy.id() + "/would-open",
                        new OpeningTrial(options.tried(policy.rules().opening()), days),
                        WouldOpen.class);
        if (out().json()) {
            out().objects(java.util.List.of(would));
            return 0;
        }
        out().say("In the last " + Out.of(days, days, "days") + " this would have opened "
                + Out.of(would.opened(), would.opened(), "opportunities") + " and joined "
                + Out.of(would.joined(), would.joined(), "meetings") + " to open ones"
                + (would.leads() > 0 ? ", made leads of the guests of " + would.leads() : "") + "; "
                + would.nothing() + " would have done nothing."
                + (would.hidden() > 0 ? " Of these you may not read " + would.hidden() + "." : ""));
        Table table = new Table("when", "meeting", "does", "account", "opportunity", "why");
        for (OpeningInfo m : would.meetings()
                .subList(0, Math.max(0, Math.min(limit, would.meetings().size())))) {
            table.row(m.at() == null ? "" : out().time(m.at()), m.title(), m.did(), m.account(), m.name(), m.why());
        }
        if (!would.meetings().isEmpty()) {
            out().table(table);
        }
        return 0;
    }
}
