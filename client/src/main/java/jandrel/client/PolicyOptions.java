package jandrel.client;

import jandrel.api.PolicyApi.AudienceInfo;
import jandrel.api.PolicyApi.ConditionRule;
import jandrel.api.PolicyApi.CreationRules;
import jandrel.api.PolicyApi.FolderRules;
import jandrel.api.PolicyApi.KeepingRules;
import jandrel.api.PolicyApi.PolicyRules;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** What can be said of a policy on the command line; what is not said stays as it is. */
abstract class PolicyOptions extends OnePolicy {
    @Option(names = "--name", description = "What it is called.")
    private String called = "";

    @Option(names = "--everyone", description = "It covers everyone.")
    private boolean everyone;

    @Option(names = "--teams", split = ",", description = "Teams it covers, with commas between.")
    private @Nullable List<String> teams;

    @Option(names = "--roles", split = ",", description = "Roles it covers.")
    private @Nullable List<String> roles;

    @Option(names = "--people", split = ",", description = "Keys of people it covers.")
    private @Nullable List<String> people;

    @Option(names = "--received", description = "on or off: mail that comes in")
    private String received = "";

    @Option(names = "--sent", description = "on or off: mail that our people write")
    private String sent = "";

    @Option(names = "--meetings", description = "none, in, out or both")
    private String meetings = "";

    @Option(names = "--back-days", description = "How many days before connecting are captured.")
    private int back = -1;

    @Option(names = "--ahead-days", description = "How many days ahead meetings are captured.")
    private int ahead = -1;

    @Option(names = "--private", description = "outline or leave-out")
    private String privateItems = "";

    @Option(names = "--cancelled", description = "keep, mark or remove")
    private String cancelled = "";

    @Option(names = "--deleted", description = "keep, mark or remove")
    private String deleted = "";

    @Option(names = "--deleted-mail", description = "for mail deleted or filed away by its owner: keep, mark or remove")
    private String deletedMail = "";

    @Option(
            names = "--logged-keyword",
            description = "an IMAP keyword that messages get in their mailbox once they are logged; \"\" for none")
    private @Nullable String loggedKeyword;

    @Option(
            names = "--forwarded",
            description = "on: the author of a message passed on by hand counts as if on it; off: they do not")
    private String forwarded = "";

    @Option(names = "--series", description = "each-occurrence or leave-out")
    private String series = "";

    @Option(names = "--tie-break", description = "owner-then-recent, most-recent, oldest, first or all")
    private String tieBreak = "";

    @Option(names = "--sharing", description = "everyone, team, those-on-it or owner")
    private String sharing = "";

    @Option(names = "--every-minutes", description = "Between two looks; 0 for the service's own pace.")
    private int minutes = -1;

    @Option(names = "--times", split = ",", description = "When sources are read, such as 07:30 (UTC).")
    private @Nullable List<String> times;

    @Option(names = "--days", split = ",", description = "On which days, such as monday.")
    private @Nullable List<String> days;

    @Option(
            names = "--outward",
            split = ",",
            description = "What goes out to calendars of that which is made here: meeting, call, follow-up.")
    private @Nullable List<String> outward;

    @Option(
            names = "--calendar-title",
            description = "What it is called there, such as \"{title} ({account})\"; {with} are the guests.")
    private String title = "";

    @Option(names = "--calendar-rings", description = "on or off: the calendar rings the reminder")
    private String rings = "";

    @Option(names = "--wins", description = "Where both sides changed the same: here, calendar or later.")
    private String wins = "";

    @Option(names = "--deletion-wins", description = "on or off: a deletion stands against a change")
    private String deletionWins = "";

    @Option(names = "--deleted-here", description = "What becomes of the calendar’s own: remove, cancel or keep.")
    private String deletedHere = "";

    @Option(names = "--asks", description = "on or off: guests of what is made here are asked to it")
    private String asks = "";

    @Option(
            names = "--missed-words",
            split = ",",
            description = "Words of a title or a category that say that a meeting did not take place.")
    private @Nullable List<String> missed;

    @Option(
            names = "--folders",
            split = ",",
            description = "Which folders: inbox, sent, archive, and names with * for any characters.")
    private @Nullable List<String> folders;

    @Option(names = "--not-folders", split = ",", description = "And which of those not.")
    private @Nullable List<String> notFolders;

    @Option(names = "--makes", description = "What becomes of strangers by itself: nothing, contacts or leads.")
    private String makes = "";

    @Option(
            names = "--if",
            description =
                    "A condition for that, such as \"meetings at-least 1\" or \"two-way is 1\"; several times for several.")
    private @Nullable List<String> conditions;

    @Mixin
    private final BookOptions books = new BookOptions();

    @Mixin
    private final OpeningOptions opening = new OpeningOptions();

    final PolicyRules over(PolicyRules now) {
        AudienceInfo a = now.audience();
        boolean some = teams != null || roles != null || people != null;
        AudienceInfo audience = everyone
                ? new AudienceInfo(true, List.of(), List.of(), List.of())
                : some
                        ? new AudienceInfo(false, or(people, a.people()), or(teams, a.teams()), or(roles, a.roles()))
                        : a;
        return new PolicyRules(
                or(called, now.name()),
                audience,
                onOff(received, now.received()),
                onOff(sent, now.sent()),
                or(meetings, now.meetings()),
                books.direction(now.contacts()),
                back < 0 ? now.backDays() : back,
                ahead < 0 ? now.aheadDays() : ahead,
                or(privateItems, now.privateItems()),
                or(cancelled, now.cancelled()),
                or(deleted, now.deleted()),
                deletedMail.isEmpty() ? now.deletedMail() : deletedMail,
                loggedKeyword == null ? now.loggedKeyword() : loggedKeyword,
                or(series, now.series()),
                now.matched(),
                or(tieBreak, now.tieBreak()),
                forwarded.isEmpty() ? now.forwarded() : Boolean.valueOf(forwarded.equals("on")),
                or(sharing, now.sharing()),
                minutes < 0 ? now.everyMinutes() : minutes,
                or(days, now.days()),
                or(times, now.times()),
                or(outward, now.outward()),
                kept(now.keeping()),
                folders(now.folders()),
                creation(now.creation()),
                books.over(now.books()),
                opening.over(now.opening()));
    }

    private @Nullable CreationRules creation(@Nullable CreationRules now) {
        if (makes.isEmpty() && conditions == null) {
            return now;
        }
        return new CreationRules(
                makes.isEmpty() ? now == null ? "nothing" : now.makes() : makes,
                conditions == null
                        ? now == null ? List.of() : now.conditions()
                        : conditions.stream()
                                .filter(c -> !c.isBlank())
                                .map(PolicyOptions::condition)
                                .toList());
    }

    private @Nullable FolderRules folders(@Nullable FolderRules now) {
        if (folders == null && notFolders == null) {
            return now;
        }
        List<String> include = now == null ? List.of("inbox", "sent", "archive") : now.include();
        return new FolderRules(or(folders, include), or(notFolders, now == null ? List.of() : now.exclude()));
    }

    private @Nullable KeepingRules kept(@Nullable KeepingRules now) {
        KeepingRules is =
                now == null ? new KeepingRules("{title}", true, "later", false, "remove", false, List.of()) : now;
        KeepingRules wanted = new KeepingRules(
                or(title, is.title()),
                onOff(rings, is.calendarRings()),
                or(wins, is.wins()),
                onOff(deletionWins, is.deletionWins()),
                or(deletedHere, is.deletedHere()),
                onOff(asks, Boolean.TRUE.equals(is.asks())),
                or(missed, Objects.requireNonNullElse(is.missed(), List.of())));
        return wanted.equals(is) ? now : wanted;
    }

    private static String or(String given, String now) {
        return given.isEmpty() ? now : given;
    }

    static List<String> or(@Nullable List<String> given, List<String> now) {
        return given == null ? now : given.stream().filter(g -> !g.isBlank()).toList();
    }

    static boolean onOff(String text, boolean now) {
        return switch (text) {
            case "" -> now;
            case "on" -> true;
            case "off" -> false;
            default -> throw new Trouble(Trouble.USE, "“" + text + "” is neither on nor off");
        };
    }

    static ConditionRule condition(String text) {
        String[] words = text.strip().split("\\s+", 0);
        if (words.length != 3 || !words[2].matches("\\d{1,9}")) {
            throw new Trouble(Trouble.USE, "“" + text + "” is no condition; write “meetings at-least 1”");
        }
        return new ConditionRule(words[0], words[1], Long.parseLong(words[2]));
    }
}
