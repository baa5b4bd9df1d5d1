package jandrel.client;

import jandrel.api.PolicyApi.ConditionRule;
import jandrel.api.PolicyApi.OpeningRules;
import java.util.List;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** What a policy says of opportunities by meeting, as options. */
final class OpeningOptions {
    /** Where one begins who switches it on. */
    private static final OpeningRules SAFE = new OpeningRules(
            "nothing",
            List.of(new ConditionRule("accepted", "is", 1), new ConditionRule("first-meeting", "is", 1)),
            List.of(),
            List.of(),
            List.of("meeting", "call"),
            "",
            "",
            "organiser",
            "{account}",
            false,
            true,
            false,
            7,
            50);

    @Option(
            names = "--meetings-open",
            description =
                    "What a meeting with somebody from outside does: nothing, join (the open opportunity) or open.")
    private String does = "";

    @Option(
            names = "--opens-if",
            description =
                    "A condition for that, such as \"first-meeting is 1\" or \"guests at-most 5\"; several times for several.")
    private @Nullable List<String> conditions;

    @Option(
            names = "--opens-words",
            split = ",",
            description = "Words, one of which the title has; \"\" for any title.")
    private @Nullable List<String> words;

    @Option(names = "--opens-calendars", split = ",", description = "Calendars by name; \"\" for any.")
    private @Nullable List<String> calendars;

    @Option(names = "--opens-kinds", split = ",", description = "meeting, call, follow-up")
    private @Nullable List<String> kinds;

    @Option(names = "--opens-stage", description = "The stage that an opportunity begins in.")
    private @Nullable String stage;

    @Option(names = "--opens-channel", description = "The channel that it has.")
    private @Nullable String channel;

    @Option(names = "--opens-owner", description = "Whose it is: organiser, account-owner or first-of-ours.")
    private String owner = "";

    @Option(
            names = "--opens-name",
            description = "How it is called, such as \"{account}: {title}\"; {with} is a guest.")
    private String name = "";

    @Option(
            names = "--opens-accounts",
            description = "on or off: guests of an unknown domain bring their account along")
    private String accounts = "";

    @Option(names = "--opens-contacts", description = "on or off: guests become contacts")
    private String contacts = "";

    @Option(names = "--opens-leads", description = "on or off: guests at public mail providers become leads")
    private String leads = "";

    @Option(names = "--opens-back-days", description = "How many days ago a meeting may have begun.")
    private int backDays = -1;

    @Option(names = "--opens-a-day", description = "At most so many are made within a day.")
    private int mostADay = -1;

    @Nullable
    OpeningRules over(@Nullable OpeningRules now) {
        OpeningRules rules = rules(now == null ? SAFE : now, "nothing");
        return now == null && rules.equals(SAFE) ? null : rules;
    }

    /** What would be if it were switched on. */
    OpeningRules tried(@Nullable OpeningRules now) {
        return rules(now == null ? SAFE : now, "open");
    }

    private OpeningRules rules(OpeningRules is, String otherwise) {
        String does = this.does.isEmpty() ? is.does() : this.does;
        return new OpeningRules(
                does.equals("nothing") ? otherwise : does,
                conditions == null
                        ? is.conditions()
                        : conditions.stream()
                                .filter(c -> !c.isBlank())
                                .map(PolicyOptions::condition)
                                .toList(),
                PolicyOptions.or(words, is.words()),
                PolicyOptions.or(calendars, is.calendars()),
                PolicyOptions.or(kinds, is.kinds()),
                stage == null ? is.stage() : stage,
                channel == null ? is.channel() : channel,
                owner.isEmpty() ? is.owner() : owner,
                name.isEmpty() ? is.name() : name,
                PolicyOptions.onOff(accounts, is.makesAccounts()),
                PolicyOptions.onOff(contacts, is.makesContacts()),
                PolicyOptions.onOff(leads, is.makesLeads()),
                backDays < 0 ? is.backDays() : backDays,
                mostADay < 0 ? is.mostADay() : mostADay);
    }
}
