package jandrel.client;

import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import picocli.CommandLine;
import picocli.CommandLine.Model.UsageMessageSpec;

/** The help: commands in groups, what people do most first, and an example for each. */
final class HelpPages {
    private static final String ITEM = "6b910af4-1f3c-4e0a-9d0e-5c2f7a1b8e21";
    private static final String OTHER = "2d7c4b10-88ae-4f5f-9c11-0c6f6a3d9b42";

    /** Headings, each with its commands and their examples: all that stands after {@code jandrel}. */
    static final Map<String, Map<String, String>> GROUPS = new LinkedHashMap<>();

    static {
        group(
                "Look around",
                "status",
                "status",
                "records",
                "records skarvik --kind account",
                "timeline",
                "timeline \"Port of Skarvik\"",
                "search",
                "search mooring plan",
                "show",
                "show " + ITEM);
        group(
                "Ask why",
                "decisions",
                "decisions --verdict left-out --person tobias.renn@corvane.example",
                "why",
                "why " + ITEM);
        group(
                "Calendar",
                "agenda",
                "agenda --team Harbours --days 7",
                "free",
                "free tobias.renn@corvane.example --for 1h",
                "meet",
                "meet \"Port of Skarvik\" --at \"2026-12-01 09:00\" --for 1h --title \"Mooring plan\"",
                "call",
                "call \"Port of Skarvik\" --in 2h",
                "follow-up",
                "follow-up \"Port of Skarvik\" --in 7d --title \"Send the offer\"",
                "meeting",
                "meeting " + ITEM,
                "move",
                "move " + ITEM + " --to \"2026-12-02 09:00\"",
                "cancel",
                "cancel " + ITEM,
                "went",
                "went " + ITEM + " missed",
                "result",
                "result " + ITEM + " \"offer made\"",
                "results",
                "results \"offer made=offer sent\" \"no fit\" \"meet again\"",
                "send-out",
                "send-out tobias.renn@corvane.example",
                "in-step",
                "in-step",
                "outbox",
                "outbox",
                "conflicts",
                "conflicts",
                "bring-back",
                "bring-back " + ITEM,
                "let-pass",
                "let-pass 12",
                "subscribe",
                "subscribe \"Port of Skarvik\"",
                "subscriptions",
                "subscriptions",
                "unsubscribe",
                "unsubscribe " + ITEM,
                "follow",
                "follow \"Port of Skarvik\"",
                "followed",
                "followed",
                "notices",
                "notices");
        group(
                "Unmatched people",
                "strangers",
                "strangers --find skarvik",
                "settle",
                "settle contact bram.holm@skarvik.example --record \"Port of Skarvik\"",
                "make-record",
                "make-record account \"Port of Skarvik\" --domain skarvik.example",
                "settled",
                "settled",
                "take-back",
                "take-back " + ITEM,
                "twins",
                "twins",
                "merge",
                "merge " + ITEM + " " + OTHER,
                "apart",
                "apart " + ITEM + " " + OTHER,
                "pin",
                "pin " + ITEM + " \"Port of Skarvik\"");
        group(
                "Rules",
                "policy",
                "policy list",
                "exclusions",
                "exclusions --suggest",
                "exclude",
                "exclude news@harbour-gazette.example --reason \"newsletter\" --rehearse",
                "include",
                "include news@harbour-gazette.example",
                "company",
                "company --own corvane.example",
                "coverage",
                "coverage --state not-connected",
                "cover-until",
                "cover-until tobias.renn@corvane.example 2026-12-31",
                "apply",
                "apply " + ITEM,
                "undo",
                "undo " + ITEM,
                "background",
                "background pause");
        group(
                "Measures",
                "export",
                "export decisions --file decisions.ndjson",
                "save",
                "save \"Port of Skarvik\" --mail skarvik.mbox --contacts skarvik.vcf",
                "measures",
                "measures",
                "measure",
                "measure to-win --by channel",
                "kept-figures",
                "kept-figures",
                "working-hours",
                "working-hours mon-fri=09:00-17:00 --zone Europe/Oslo --holidays 2026-12-25",
                "stages",
                "stages",
                "history",
                "history \"inner channel buoys\"");
        group(
                "Directory, journal",
                "contacts",
                "contacts preview 12",
                "directory",
                "directory contacts --where account=skarvik",
                "fields",
                "fields segment --name Segment --choices Gold,Silver",
                "change",
                "change contacts con-1032 title=Director",
                "import",
                "import contacts contacts.csv",
                "import-from",
                "import-from contacts theirs.xlsx --left-out rest.csv",
                "imports",
                "imports undo " + ITEM,
                "journal",
                "journal list --who ina --limit 20");
        group(
                "Connections",
                "connections",
                "connections",
                "connect",
                "connect --person tobias.renn --server mail --account tobias.renn@corvane.example",
                "connect-everyone",
                "connect-everyone --server mail",
                "look",
                "look --all --team Harbours",
                "sources",
                "sources " + ITEM,
                "pause",
                "pause --all --state capturing",
                "resume",
                "resume --all --state paused",
                "remind",
                "remind --all --state needs-sign-in",
                "accept",
                "accept " + ITEM,
                "new-password",
                "new-password " + ITEM,
                "disconnect",
                "disconnect " + ITEM,
                "servers",
                "servers",
                "add-server",
                "add-server mail --kind imap --host mail.corvane.example --port 993",
                "change-server",
                "change-server mail --host imap.corvane.example",
                "remove-server",
                "remove-server mail",
                "check-server",
                "check-server --kind imap --host mail.corvane.example",
                "find-servers",
                "find-servers tobias.renn@corvane.example",
                "allowed-hosts",
                "allowed-hosts",
                "allow-host",
                "allow-host mail.corvane.example",
                "forbid-host",
                "forbid-host mail.corvane.example");
        group(
                "Who gets in",
                "sign-ins",
                "sign-ins --state invited",
                "invite",
                "invite tobias.renn@corvane.example --role manager",
                "set-role",
                "set-role maren.aldous manager --team Harbours",
                "add-sign-in",
                "add-sign-in directory-sync --name \"Directory sync\" --role administrator --program",
                "end-sign-in",
                "end-sign-in tobias.renn --left",
                "readers",
                "readers add quarterly_report --as manager --team Harbours",
                "providers",
                "providers",
                "add-provider",
                "add-provider Corvane --issuer https://login.corvane.example --client-id jandrel",
                "remove-provider",
                "remove-provider Corvane",
                "password-sign-in",
                "password-sign-in off --but admin");
        group(
                "Signing in",
                "sign-in",
                "sign-in --url http://127.0.0.1:8740 --login ina",
                "whoami",
                "whoami",
                "password",
                "password",
                "sessions",
                "sessions",
                "end-session",
                "end-session " + ITEM,
                "create-token",
                "create-token \"Nightly figures\" --may measures --days 90",
                "sign-out",
                "sign-out",
                "help",
                "help timeline");
    }

    private HelpPages() {}

    private static void group(String heading, String... commandsAndExamples) {
        Map<String, String> commands = new LinkedHashMap<>();
        for (int i = 0; i < commandsAndExamples.length; i += 2) {
            commands.put(commandsAndExamples[i], commandsAndExamples[i + 1]);
        }
        GROUPS.put(heading, commands);
    }

    /** Puts headings over the commands, and an example under each one's help. */
    static void into(CommandLine line) {
        line.getHelpSectionMap().put(UsageMessageSpec.SECTION_KEY_COMMAND_LIST, help -> list(line));
        line.getHelpSectionMap().remove(UsageMessageSpec.SECTION_KEY_COMMAND_LIST_HEADING);
        line.setUsageHelpWidth(100);
        page(line, "help").description("Explains a command, with an example.");
        GROUPS.values()
                .forEach(commands -> commands.forEach((name, example) ->
                        page(line, name).footerHeading("%nExample%n").footer("  jandrel " + example)));
    }

    private static UsageMessageSpec page(CommandLine line, String command) {
        return Objects.requireNonNull(line.getSubcommands().get(command), command)
                .getCommandSpec()
                .usageMessage();
    }

    private static String list(CommandLine line) {
        StringBuilder all = new StringBuilder();
        GROUPS.forEach((heading, commands) -> {
            all.append(String.format("%n%s%n", heading));
            commands.keySet()
                    .forEach(name -> all.append(String.format(
                            "  %-17s %s%n",
                            name, String.join(" ", page(line, name).description()))));
        });
        return all.toString();
    }
}
