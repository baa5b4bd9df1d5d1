package jandrel.client;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.time.ZoneId;
import java.util.concurrent.Callable;
import picocli.CommandLine;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ScopeType;
import picocli.CommandLine.Spec;

/** The command {@code jandrel}. */
@Command(
        name = "jandrel",
        description = "Asks a Jandrel service, and changes what it captures.",
        synopsisSubcommandLabel = "COMMAND",
        mixinStandardHelpOptions = true,
        scope = ScopeType.INHERIT,
        version = "jandrel 0.1.0",
        usageHelpAutoWidth = true,
        subcommands = {
            SigningIn.In.class,
            SigningIn.Whoami.class,
            SigningIn.Out.class,
            ReadCommands.Status.class,
            ReadCommands.Records.class,
            ReadCommands.Timeline.class,
            ReadCommands.Show.class,
            ReadCommands.Search.class,
            Explaining.Decisions.class,
            Explaining.Why.class,
            Calendars.Agenda.class,
            Meeting.Show.class,
            Meeting.Meet.class,
            Meeting.Call.class,
            Meeting.FollowUp.class,
            Meeting.Move.class,
            Meeting.Cancel.class,
            Meeting.Went.class,
            Calendars.Free.class,
            Calendars.Conflicts.class,
            Calendars.BringBack.class,
            Calendars.Send.class,
            Calendars.Subscribe.class,
            Calendars.Subscriptions.class,
            Calendars.Unsubscribe.class,
            Calendars.InStep.class,
            Calendars.LetPass.class,
            Calendars.Followed.class,
            Calendars.Follow.class,
            Triaging.Strangers.class,
            Triaging.Settle.class,
            Triaging.MakeRecord.class,
            Triaging.Deeds.class,
            Triaging.TakeBack.class,
            Triaging.Twins.class,
            Triaging.MergeTwo.class,
            Triaging.PinItem.class,
            Changing.Import.class,
            Changing.Exclusions.class,
            Changing.Exclude.class,
            Changing.Include.class,
            Policing.Policy.class,
            Covering.Coverage.class,
            Covering.CoverUntil.class,
            RehearsalCommands.Apply.class,
            RehearsalCommands.Undo.class,
            RehearsalCommands.InBackground.class,
            Auditing.Journal.class,
            Auditing.Outbox.class,
            Changing.Company.class,
            ConnectionCommands.Servers.class,
            ConnectionCommands.AddServer.class,
            ConnectionCommands.Connections.class,
            ConnectionCommands.Connect.class,
            ConnectionCommands.ConnectEveryone.class,
            ConnectionCommands.Look.class,
            ConnectionCommands.Pause.class,
            ConnectionCommands.Resume.class,
            ConnectionCommands.Sources.class,
            ConnectionCommands.Disconnect.class,
            ConnectionCommands.AllowHost.class,
            ConnectionCommands.CheckServer.class,
            ConnectionCommands.FindServers.class,
            CommandLine.HelpCommand.class
        },
        footerHeading = "%nExit codes%n",
        footer = {
            "  0  fine",
            "  1  the answer is no: nothing of that name, or it was refused",
            "  2  wrong use",
            "  3  the service cannot be reached, or does not allow it"
        })
public final class JandrelClient implements ClientContext, Callable<Integer> {
    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    @Option(names = "--json", scope = ScopeType.INHERIT, description = "One JSON object a line, for programs.")
    private boolean json;

    private final Home home = new Home(System.getenv());

    public static void main(String[] arguments) {
        PrintStream err = new PrintStream(new FileOutputStream(FileDescriptor.err), true, StandardCharsets.UTF_8);
        System.exit(commandLine(err).execute(arguments));
    }

    private static CommandLine commandLine(PrintStream err) {
        CommandLine line = new CommandLine(new JandrelClient());
        line.setParameterExceptionHandler((wrong, args) -> {
            err.println("jandrel: " + wrong.getMessage() + "; see “jandrel help"
                    + (wrong.getCommandLine().getCommandName().equals("jandrel")
                            ? ""
                            : " " + wrong.getCommandLine().getCommandName())
                    + "”");
            return Trouble.USE;
        });
        line.setExecutionExceptionHandler((failed, command, parsed) -> {
            if (failed instanceof Trouble trouble) {
                err.println("jandrel: "
                        + String.valueOf(trouble.getMessage())
                                .lines()
                                .map(Table::printable)
                                .collect(java.util.stream.Collectors.joining("\n")));
                return trouble.code();
            }
            err.println("jandrel: the answer could not be understood ("
                    + failed.getClass().getSimpleName() + "); are client and service of the same version?");
            return Trouble.REACH;
        });
        return line;
    }

    @Override
    public Integer call() {
        spec.commandLine().usage(System.out);
        return 0;
    }

    @Override
    public Home home() {
        return home;
    }

    @Override
    public Http http() {
        return new Http(home.signIn());
    }

    @Override
    public Out out() {
        boolean terminal = System.console() != null;
        String columns = home.variable("COLUMNS");
        int width = terminal && columns.matches("\\d{1,4}") ? Integer.parseInt(columns) : 0;
        String zone = home.variable("TZ");
        PrintStream stream = new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
        return new Out(stream, json, width, zone.isEmpty() ? ZoneId.systemDefault() : zoneOf(zone));
    }

    private static ZoneId zoneOf(String zone) {
        try {
            return ZoneId.of(zone);
        } catch (java.time.DateTimeException unknown) {
            return ZoneId.systemDefault();
        }
    }
}
