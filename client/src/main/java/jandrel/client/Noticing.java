package jandrel.client;

import jandrel.api.NoticeApi.NoticeChoiceInfo;
import jandrel.api.NoticeApi.NoticeInfo;
import jandrel.api.NoticeApi.NoticeMarks;
import jandrel.api.NoticeApi.NoticePage;
import jandrel.api.NoticeApi.NoticeSnooze;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What concerns the person who asks. */
final class Noticing {
    private static final int LONGEST_MINUTES = 28 * 24 * 60;

    private Noticing() {}

    private static NoticePage page(Http http) {
        return http.get("/api/notices", Map.of(), NoticePage.class);
    }

    private static boolean isUnread(NoticeInfo n) {
        return !n.read() && n.snoozedUntil() == null;
    }

    private static String many(int n) {
        return n + (n == 1 ? " notice" : " notices");
    }

    @Command(
            name = "notices",
            description = "What concerns you: meetings that are due, connections, conflicts, people on no record.",
            subcommands = {Read.class, Snooze.class, Choose.class})
    static final class Notices extends Ask {
        @Option(names = "--all", description = "Those too that are read or put off.")
        private boolean all;

        @Override
        public Integer call() {
            NoticePage page = page(main().http());
            List<NoticeInfo> shown =
                    page.notices().stream().filter(n -> all || isUnread(n)).toList();
            Out out = out();
            if (out.json()) {
                out.objects(shown);
                return shown.isEmpty() ? Trouble.NO : 0;
            }
            if (shown.isEmpty()) {
                int others = page.notices().size();
                out.say("Nothing is unread" + (others == 0 ? "." : "; --all shows " + many(others) + "."));
                return Trouble.NO;
            }
            Table table = new Table(">no", "kind", "when", "what", "", "");
            for (NoticeInfo n : shown) {
                table.row(
                        page.notices().indexOf(n) + 1,
                        n.kind(),
                        n.kind().equals("held") ? "" : n.allDay() ? "all day" : out.time(n.at()),
                        n.title(),
                        n.detail(),
                        n.read()
                                ? "read"
                                : n.snoozedUntil() == null ? "unread" : "put off until " + out.time(n.snoozedUntil()));
            }
            out.table(table);
            return 0;
        }
    }

    /** By its number in the list, which is what people see. */
    private static NoticeInfo numbered(NoticePage page, int number) {
        if (number < 1 || number > page.notices().size()) {
            throw new Trouble(Trouble.NO, "there is no notice " + number + "; “jandrel notices --all” numbers them");
        }
        return page.notices().get(number - 1);
    }

    @Command(name = "read", description = "Marks notices as read; they go when their cause has gone.")
    static final class Read extends Ask {
        @Parameters(paramLabel = "NO", arity = "0..*", description = "Their numbers in the list.")
        private List<Integer> numbers = List.of();

        @Option(names = "--all", description = "All that are unread.")
        private boolean all;

        @Override
        public Integer call() {
            if (all == !numbers.isEmpty()) {
                throw new Trouble(Trouble.USE, "give numbers, or --all");
            }
            NoticePage page = page(main().http());
            List<String> keys = all
                    ? page.notices().stream()
                            .filter(Noticing::isUnread)
                            .map(NoticeInfo::key)
                            .toList()
                    : numbers.stream().map(n -> numbered(page, n).key()).toList();
            main().http().tell("POST", "/api/notices/read", new NoticeMarks(keys, true));
            out().say(many(keys.size()) + " read.");
            return 0;
        }
    }

    @Command(name = "snooze", description = "Puts a notice off.")
    static final class Snooze extends Ask {
        @Parameters(paramLabel = "NO", description = "Its number in the list.")
        private int number;

        @Option(names = "--for", required = true, description = "Such as 10m, 2h or 1d.")
        private String length = "";

        @Override
        public Integer call() {
            NoticeInfo notice = numbered(page(main().http()), number);
            int minutes = minutes(length);
            main().http().tell("POST", "/api/notices/snooze", new NoticeSnooze(notice.key(), minutes));
            out().say("“" + notice.title() + "” comes again in " + length + ", if it still matters then.");
            return 0;
        }
    }

    private static int minutes(String length) {
        Duration given = Times.length(length);
        if (given.toMinutes() > LONGEST_MINUTES) {
            throw new Trouble(Trouble.USE, "four weeks are the most");
        }
        return (int) given.toMinutes();
    }

    @Command(name = "choose", description = "How you are told of what concerns you; shows it where nothing is given.")
    static final class Choose extends Ask {
        @Option(
                names = "--before",
                paramLabel = "TIME",
                description =
                        "How long before a meeting begins: such as 15m, 1h; “never” for those alone with a reminder.")
        private String before = "";

        @Option(names = "--console", paramLabel = "on|off", description = "Whether it rings in the console.")
        private @Nullable Switch console;

        @Option(names = "--mail", paramLabel = "on|off", description = "Whether each comes by mail, too.")
        private @Nullable Switch mail;

        @Option(
                names = "--beside-calendar",
                paramLabel = "on|off",
                description = "Whether those ring here, too, that your calendar rings.")
        private @Nullable Switch besideCalendar;

        @Option(names = "--daily", paramLabel = "HH:MM|off", description = "One mail a day with all that is unread.")
        private String daily = "";

        enum Switch {
            on,
            off
        }

        private static boolean or(@Nullable Switch wanted, boolean now) {
            return wanted == null ? now : wanted == Switch.on;
        }

        @Override
        public Integer call() {
            Http http = main().http();
            NoticeChoiceInfo now = http.get("/api/notices/choice", Map.of(), NoticeChoiceInfo.class);
            boolean changes =
                    !before.isEmpty() || console != null || mail != null || besideCalendar != null || !daily.isEmpty();
            if (changes) {
                boolean off = daily.equals("off");
                now = http.send(
                        "PUT",
                        "/api/notices/choice",
                        new NoticeChoiceInfo(
                                or(console, now.rings()),
                                or(mail, now.mails()),
                                before.isEmpty() ? now.minutesBefore() : before.equals("never") ? -1 : minutes(before),
                                or(besideCalendar, now.besideCalendar()),
                                daily.isEmpty() ? now.daily() : !off,
                                daily.isEmpty() || off ? now.dailyAt() : daily,
                                ZoneId.systemDefault().getId(),
                                null),
                        NoticeChoiceInfo.class);
            }
            if (out().json()) {
                out().objects(List.of(now));
                return 0;
            }
            say(now);
            return 0;
        }

        private void say(NoticeChoiceInfo c) {
            Out out = out();
            out.say(
                    c.minutesBefore() < 0
                            ? "Meetings are due when their own reminder says so."
                            : "Meetings are due " + c.minutesBefore() + " minutes before they begin"
                                    + (c.besideCalendar() ? "." : ", but for those that your calendar rings."));
            out.say("In the console they " + (c.rings() ? "ring." : "do not ring."));
            boolean noWay = c.address() == null || c.address().isEmpty();
            out.say(
                    c.mails() || c.daily()
                            ? "Mail " + (c.mails() ? "for each" + (c.daily() ? ", and " : "") : "")
                                    + (c.daily() ? "once a day at " + c.dailyAt() + " (" + c.zone() + ")" : "")
                                    + (noWay
                                            ? "; none can be sent: there is no mail server, or your sign-in is no person's."
                                            : " to " + c.address() + ".")
                            : "No mail.");
        }
    }
}
