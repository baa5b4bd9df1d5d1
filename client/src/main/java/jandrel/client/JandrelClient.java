package jandrel.client;

import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.PrintStream;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
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
        footerHeading = "%nExit codes%n",
        footer = {
            "  0  fine",
            "  1  the answer is no: nothing of that name, or it was refused",
            "  2  wrong use",
            "  3  the service cannot be reached, or does not allow it"
        })
public final class JandrelClient implements ClientContext, Callable<Integer> {
    private static final Set<String> HELP = Set.of("help", "--help", "-h");

    /** All commands there are. */
    private static final List<Class<?>> COMMANDS = List.of(
            SigningIn.In.class,
            SigningIn.Whoami.class,
            SigningIn.Out.class,
            SignInCommands.Password.class,
            SignInCommands.Sessions.class,
            SignInCommands.EndSession.class,
            SignInCommands.CreateToken.class,
            SignInCommands.All.class,
            SignInCommands.Invite.class,
            SignInCommands.SetRole.class,
            SignInCommands.Add.class,
            SignInCommands.End.class,
            ReaderCommands.Readers.class,
            ProviderCommands.All.class,
            ProviderCommands.Add.class,
            ProviderCommands.Remove.class,
            ProviderCommands.Passwords.class,
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
            Meeting.Result.class,
            Meeting.Results.class,
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
            Noticing.Notices.class,
            Triaging.Strangers.class,
            Triaging.Settle.class,
            Triaging.MakeRecord.class,
            Triaging.Deeds.class,
            Triaging.TakeBack.class,
            Triaging.Twins.class,
            Triaging.MergeTwo.class,
            Triaging.TellApart.class,
            Triaging.PinItem.class,
            Directories.ShowTable.class,
            Directories.Change.class,
            Changing.Import.class,
            Directories.ImportFrom.class,
            TakenImportCommands.Imports.class,
            Changing.Exclusions.class,
            Changing.Exclude.class,
            Changing.Include.class,
            ExportCommand.class,
            SaveCommand.class,
            MeasureCommands.Measures.class,
            MeasureCommands.MeasureFigures.class,
            KeptCommands.KeptFigures.class,
            KeptCommands.WorkingHours.class,
            MeasureCommands.Stages.class,
            OwnFieldCommands.Fields.class,
            MeasureCommands.History.class,
            ContactCommands.Contacts.class,
            Policing.Policy.class,
            Covering.Coverage.class,
            Covering.CoverUntil.class,
            RehearsalCommands.Apply.class,
            RehearsalCommands.Undo.class,
            RehearsalCommands.InBackground.class,
            Auditing.Journal.class,
            Auditing.Outbox.class,
            Changing.Company.class,
            ServerCommands.Servers.class,
            ServerCommands.AddServer.class,
            ServerCommands.ChangeServer.class,
            ServerCommands.RemoveServer.class,
            ConnectionCommands.Connections.class,
            ConnectionCommands.Connect.class,
            ConnectionCommands.ConnectEveryone.class,
            ConnectionActs.SyncNow.class,
            ConnectionActs.Pause.class,
            ConnectionActs.Resume.class,
            ConnectionActs.Remind.class,
            ConnectionActs.Accept.class,
            ConnectionActs.GivePassword.class,
            ConnectionCommands.Sources.class,
            ConnectionCommands.Disconnect.class,
            ServerCommands.AllowedHosts.class,
            ServerCommands.AllowHost.class,
            ServerCommands.ForbidHost.class,
            ServerCommands.CheckServer.class,
            ServerCommands.FindServers.class,
            CommandLine.HelpCommand.class);

    @Spec
    @SuppressWarnings("NullAway.Init")
    private CommandSpec spec;

    @Option(names = "--json", scope = ScopeType.INHERIT, description = "One JSON object a line, for programs.")
    private boolean json;

    private final Home home;
    private final PrintStream stream;

    JandrelClient(Map<String, String> environment, PrintStream stream) {
        this.home = new Home(environment);
        this.stream = stream;
    }

    public static void main(String[] arguments) {
        PrintStream out = new PrintStream(new FileOutputStream(FileDescriptor.out), true, StandardCharsets.UTF_8);
        PrintStream err = new PrintStream(new FileOutputStream(FileDescriptor.err), true, StandardCharsets.UTF_8);
        System.exit(run(System.getenv(), out, err, arguments));
    }

    /** Runs one command. @return the exit code */
    static int run(Map<String, String> environment, PrintStream out, PrintStream err, String... arguments) {
        boolean helps = arguments.length == 0 || List.of(arguments).stream().anyMatch(HELP::contains);
        CommandLine line = helps ? whole(environment, out) : one(environment, out, arguments);
        line.setOut(new PrintWriter(out, true, StandardCharsets.UTF_8));
        if (helps) {
            HelpPages.into(line);
        }
        line.setParameterExceptionHandler((wrong, args) -> {
            err.println("jandrel: " + Misuse.what(wrong) + "; see “" + Misuse.help(wrong.getCommandLine()) + "”");
            return Trouble.USE;
        });
        line.setExecutionExceptionHandler((failed, command, parsed) -> {
            if (failed instanceof Trouble trouble) {
                err.println("jandrel: "
                        + String.valueOf(trouble.getMessage())
                                .lines()
                                .map(Table::printable)
                                .collect(Collectors.joining("\n")));
                return trouble.code();
            }
            err.println("jandrel: the answer could not be understood ("
                    + failed.getClass().getSimpleName() + "); are client and service of the same version?");
            return Trouble.REACH;
        });
        return line.execute(arguments);
    }

    /** With all commands. */
    static CommandLine whole(Map<String, String> environment, PrintStream out) {
        CommandLine line = new CommandLine(new JandrelClient(environment, out));
        COMMANDS.forEach(line::addSubcommand);
        return line;
    }

    /** With the one that is asked for alone: to put all of them together takes longer than most answers. */
    private static CommandLine one(Map<String, String> environment, PrintStream out, String... arguments) {
        String name = Arrays.stream(arguments)
                .filter(a -> !a.startsWith("-"))
                .findFirst()
                .orElse("");
        Class<?> wanted = COMMANDS.stream()
                .filter(c -> c.getAnnotation(Command.class).name().equals(name))
                .findFirst()
                .orElse(null);
        if (wanted == null) {
            return whole(environment, out);
        }
        CommandLine line = new CommandLine(new JandrelClient(environment, out));
        line.addSubcommand(wanted);
        return line;
    }

    @Override
    public Integer call() {
        spec.commandLine().usage(stream);
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
