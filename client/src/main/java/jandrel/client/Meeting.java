package jandrel.client;

import jandrel.api.ActivityApi.OwnerInfo;
import jandrel.api.DirectoryApi.PersonInfo;
import jandrel.api.MeetingApi.ConflictInfo;
import jandrel.api.MeetingApi.GuestInfo;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingChange;
import jandrel.api.MeetingApi.MeetingDetail;
import jandrel.api.MeetingApi.MeetingInfo;
import jandrel.api.MeetingApi.MeetingOutcome;
import jandrel.api.MeetingApi.MeetingResult;
import jandrel.api.MeetingApi.NewMeeting;
import jandrel.api.MeetingApi.ResultInfo;
import jandrel.api.MeetingApi.ResultList;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Meetings, calls and follow-ups: made, looked at, changed. */
final class Meeting {
    private Meeting() {}

    static UUID person(Http http, String keyOrName) {
        List<UUID> found = Arrays.stream(http.get("/api/people", Map.of(), PersonInfo[].class))
                .filter(p -> p.key().equalsIgnoreCase(keyOrName)
                        || p.name().equalsIgnoreCase(keyOrName)
                        || p.addresses().contains(keyOrName))
                .map(PersonInfo::id)
                .toList();
        if (found.size() != 1) {
            throw new Trouble(
                    Trouble.NO,
                    found.isEmpty()
                            ? "nobody of the company is called “" + keyOrName + "”; give a key, a name or an address"
                            : "several are called “" + keyOrName + "”; give a key or an address");
        }
        return found.get(0);
    }

    static String owners(List<OwnerInfo> owners) {
        return owners.stream().map(OwnerInfo::name).collect(Collectors.joining(", "));
    }

    /** What all three have in common. */
    abstract static class Make extends Ask {
        @Parameters(
                arity = "1..*",
                paramLabel = "RECORD",
                description = "The records that it is for: ids, or names if one has them.")
        private List<String> records = List.of();

        @Option(names = "--in", description = "In how long, such as 1h, 30m or 2d.")
        private String in = "";

        @Option(
                names = "--at",
                description = "When, in this machine’s zone or that of TZ, such as \"2026-12-01 09:00\".")
        private String at = "";

        @Option(names = "--for", description = "How long, such as 30m or 1h.")
        private String length = "";

        @Option(names = "--title", description = "What it is called.")
        private String title = "";

        @Option(names = "--with", split = ",", description = "Addresses of guests, with commas between.")
        private List<String> guests = List.of();

        @Option(names = "--place", description = "Where.")
        private @Nullable String place;

        @Option(names = "--online", description = "The address to join online.")
        private @Nullable String online;

        @Option(names = "--text", description = "What it is about.")
        private @Nullable String text;

        @Option(names = "--reminder", description = "Minutes before.")
        private @Nullable Integer reminder;

        @Option(names = "--free", description = "It does not take the owner's time.")
        private boolean free;

        @Option(names = "--private", description = "Others see only that it is busy.")
        private boolean isPrivate;

        @Option(
                names = "--ask",
                negatable = true,
                description = "Asks the guests, or not; as the policy says if not given.")
        private @Nullable Boolean ask;

        @Option(names = "--of", description = "Whose it is: key, name or address; your own if not given.")
        private String of = "";

        abstract String sort();

        abstract String usually();

        @Override
        public Integer call() {
            if (in.isEmpty() == at.isEmpty()) {
                throw new Trouble(Trouble.USE, "say when: --in 1h, or --at \"2026-12-01 09:00\"");
            }
            ZoneId zone = out().zone();
            Instant begins = in.isEmpty()
                    ? Times.at(at, zone)
                    : Times.rounded(Instant.now().plus(Times.length(in)));
            Duration lasts = Times.length(length.isEmpty() ? usually() : length);
            Http http = main().http();
            MadeMeeting made = http.send(
                    "POST",
                    "/api/meetings",
                    new NewMeeting(
                            sort(),
                            title.isEmpty()
                                    ? sort().substring(0, 1).toUpperCase(java.util.Locale.ROOT)
                                            + sort().substring(1).replace('-', ' ')
                                    : title,
                            begins,
                            begins.plus(lasts),
                            false,
                            zone.getId().equals("Z") ? "UTC" : zone.getId(),
                            records.stream().map(r -> Ask.record(http, r).id()).toList(),
                            guests,
                            of.isEmpty() ? null : person(http, of),
                            place,
                            online,
                            text,
                            !free,
                            isPrivate,
                            reminder,
                            ask),
                    MadeMeeting.class);
            if (out().json()) {
                out().objects(List.of(made));
                return 0;
            }
            out().say(out().time(begins) + " (" + zone + ")  " + Table.printable(made.says()));
            out().say(made.item().toString());
            return 0;
        }
    }

    @Command(
            name = "meet",
            description = "Creates a meeting for a record; it goes to your calendar if the policy says so.")
    static final class Meet extends Make {
        @Override
        String sort() {
            return "meeting";
        }

        @Override
        String usually() {
            return "30m";
        }
    }

    @Command(name = "call", description = "Creates a call for a record.")
    static final class Call extends Make {
        @Override
        String sort() {
            return "call";
        }

        @Override
        String usually() {
            return "15m";
        }
    }

    @Command(name = "follow-up", description = "Creates a follow-up for a record.")
    static final class FollowUp extends Make {
        @Override
        String sort() {
            return "follow-up";
        }

        @Override
        String usually() {
            return "15m";
        }
    }

    /** Commands about one meeting. */
    abstract static class OfOne extends Ask {
        @Parameters(paramLabel = "ID", description = "As “jandrel agenda” and “jandrel timeline” show it.")
        @SuppressWarnings("NullAway.Init")
        UUID item;

        final int say(MadeMeeting made) {
            if (out().json()) {
                out().objects(List.of(made));
            } else {
                out().say(Table.printable(made.says()));
            }
            return 0;
        }
    }

    @Command(name = "meeting", description = "One meeting: how it stands here and in its calendar, and its history.")
    static final class Show extends OfOne {
        @Override
        public Integer call() {
            MeetingDetail d = main().http().get("/api/meetings/" + item, Map.of(), MeetingDetail.class);
            Out out = out();
            if (out.json()) {
                out.objects(List.of(d));
                return 0;
            }
            MeetingInfo m = d.meeting();
            out.say(Table.printable(m.title()));
            out.say(m.sort() + ", " + out.time(m.begins(), m.allDay())
                    + (m.allDay() ? "" : "–" + out.time(m.ends()).substring(11)) + ", " + owners(m.owners())
                    + (m.place().isEmpty() ? "" : ", " + Table.printable(m.place())));
            out.say(m.state() + (d.outcomeBy().isEmpty() ? "" : ", says " + d.outcomeBy()));
            if (!m.result().isEmpty() || !d.results().isEmpty()) {
                out.say("result: " + (m.result().isEmpty() ? "none" : Table.printable(m.result()))
                        + (d.results().isEmpty() ? ", by its title" : ""));
                d.results()
                        .forEach(s -> out.say("  " + out.time(s.at()) + "  " + Table.printable(s.by()) + ": "
                                + (s.name().isEmpty() ? "taken back" : Table.printable(s.name()))));
            }
            if (d.stand() != null) {
                out.say(Table.printable(d.stand().says()));
            }
            d.guests().forEach(g -> out.say("  " + Table.printable(guest(g))));
            d.moved()
                    .forEach(v -> out.say("moved from " + out.time(v.wasBegins()) + " to " + out.time(v.begins())
                            + " by " + Table.printable(v.by()) + ", " + out.time(v.at())));
            d.conflicts().forEach(c -> out.say(said(c)));
            if (!d.mayChange()) {
                out.say("You cannot change it: " + d.whyNot());
            }
            return 0;
        }
    }

    private static String guest(GuestInfo g) {
        String answer = g.answer().equals("none") ? "no answer yet" : g.answer();
        return (g.name().isEmpty() ? "" : g.name() + " ") + g.address() + ": " + answer
                + (g.asked().isEmpty() ? "" : ", " + g.asked());
    }

    private static String said(ConflictInfo c) {
        return c.field() + ": here “" + Table.printable(c.here()) + "”, calendar “" + Table.printable(c.calendar())
                + "”; " + (c.stands().equals("here") ? "what was entered here" : "the calendar’s") + " stands"
                + (c.canComeBack()
                        ? ". To bring the other back: jandrel bring-back " + c.id()
                        : c.broughtBackBy() == null ? "" : "; brought back by " + c.broughtBackBy());
    }

    @Command(name = "move", description = "Moves a meeting, here and in its calendar.")
    static final class Move extends OfOne {
        @Option(
                names = "--to",
                description = "When it begins, in this machine’s zone or that of TZ; it keeps its length.")
        private String to = "";

        @Option(names = "--by", description = "How much later, such as 30m; with a minus, earlier.")
        private String by = "";

        @Override
        public Integer call() {
            if (to.isEmpty() == by.isEmpty()) {
                throw new Trouble(Trouble.USE, "say where to: --to \"2026-12-01 09:00\", or --by 30m");
            }
            Instant begins;
            if (to.isEmpty()) {
                boolean earlier = by.startsWith("-");
                Duration length = Times.length(earlier ? by.substring(1) : by);
                Instant was = main().http()
                        .get("/api/meetings/" + item, Map.of(), MeetingDetail.class)
                        .meeting()
                        .begins();
                begins = earlier ? was.minus(length) : was.plus(length);
            } else {
                begins = Times.at(to, out().zone());
            }
            return say(main().http()
                    .send(
                            "PUT",
                            "/api/meetings/" + item,
                            new MeetingChange(
                                    null, begins, null, null, null, null, null, null, null, null, null, null, null,
                                    null),
                            MadeMeeting.class));
        }
    }

    @Command(
            name = "cancel",
            description = "Marks a meeting as cancelled, or with --delete deletes it, here and in its calendar.")
    static final class Cancel extends OfOne {
        @Option(names = "--delete", description = "Deletes it.")
        private boolean delete;

        @Override
        public Integer call() {
            MeetingChange cancelled = new MeetingChange(
                    null, null, null, null, null, null, null, null, null, null, null, null, true, null);
            return say(main().http()
                    .send(
                            delete ? "DELETE" : "PUT",
                            "/api/meetings/" + item,
                            delete ? Map.of() : cancelled,
                            MadeMeeting.class));
        }
    }

    /** What somebody says of a meeting once it has begun. */
    abstract static class Said extends OfOne {
        abstract String what();

        abstract Object said();

        @Override
        public Integer call() {
            main().http().tell("PUT", "/api/meetings/" + item + "/" + what(), said());
            return 0;
        }
    }

    @Command(name = "went", description = "Says how a meeting went: held or missed; “as-planned” undoes that.")
    static final class Went extends Said {
        @Parameters(index = "1", paramLabel = "HOW", description = "held, missed or as-planned")
        private String how = "";

        @Override
        String what() {
            return "outcome";
        }

        @Override
        MeetingOutcome said() {
            return new MeetingOutcome(how.equals("as-planned") ? "" : how);
        }
    }

    @Command(
            name = "result",
            description = "Says what came of a meeting, as the company calls it; “none” takes back what was said.")
    static final class Result extends Said {
        @Parameters(index = "1", paramLabel = "RESULT", description = "One of those that “jandrel results” lists.")
        private String result = "";

        @Override
        String what() {
            return "result";
        }

        @Override
        MeetingResult said() {
            return new MeetingResult(result.equals("none") ? "" : result);
        }
    }

    @Command(
            name = "results",
            description = "Lists what can come of meetings, in the company’s order, or sets the list.")
    static final class Results extends Ask {
        @Parameters(
                arity = "0..*",
                paramLabel = "RESULT[=WORD|WORD]",
                description = "All of them, each perhaps with words of a title or category that say it.")
        private List<String> wanted = List.of();

        @Override
        public Integer call() {
            Http http = main().http();
            ResultList list = wanted.isEmpty()
                    ? http.get("/api/results", Map.of(), ResultList.class)
                    : http.send(
                            "PUT",
                            "/api/results",
                            new ResultList(wanted.stream().map(Results::read).toList()),
                            ResultList.class);
            if (out().json()) {
                out().objects(list.results());
                return 0;
            }
            Table table = new Table("result", "said by");
            list.results()
                    .forEach(r -> table.row(
                            r.name(),
                            r.words().isEmpty() ? "somebody alone" : "somebody, or " + String.join(", ", r.words())));
            int all = list.results().size();
            return listed(out(), table, all, all, "results");
        }

        private static ResultInfo read(String text) {
            int at = text.indexOf('=');
            return at < 0
                    ? new ResultInfo(text, List.of())
                    : new ResultInfo(
                            text.substring(0, at),
                            List.of(text.substring(at + 1).split("\\|", 0)));
        }
    }
}
