package jandrel.client;

import jandrel.api.ActivityApi.FollowedInfo;
import jandrel.api.ConnectionApi.HeldInfo;
import jandrel.api.MeetingApi.CalendarPage;
import jandrel.api.MeetingApi.CalendarStand;
import jandrel.api.MeetingApi.ConflictInfo;
import jandrel.api.MeetingApi.FeedInfo;
import jandrel.api.MeetingApi.FreePage;
import jandrel.api.MeetingApi.InStepPage;
import jandrel.api.MeetingApi.MadeMeeting;
import jandrel.api.MeetingApi.MeetingInfo;
import jandrel.api.MeetingApi.NewFeed;
import jandrel.api.MeetingApi.RunCounts;
import jandrel.api.MeetingApi.SendOut;
import jandrel.api.MeetingApi.SentOut;
import jandrel.api.MeetingApi.SpanInfo;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Looking at calendars, and at how the two sides of them stand. */
final class Calendars {
    private Calendars() {}

    @Command(name = "agenda", description = "The meetings of the next days, yours if you are a person of the company.")
    static final class Agenda extends Ask {
        @Option(names = "--of", description = "Whose: key, name or address.")
        private String of = "";

        @Option(names = "--team", description = "Those of a team.")
        private String team = "";

        @Option(names = "--record", description = "About a record: id, or name if one has it.")
        private String record = "";

        @Option(names = "--followed", description = "About the records that you follow.")
        private boolean followed;

        @Option(names = "--from", description = "The first day; today if not given.")
        private String from = "";

        @Option(names = "--days", description = "How many; 7 if not given.")
        private int days = 7;

        @Override
        public Integer call() {
            Http http = main().http();
            LocalDate first = from.isEmpty() ? LocalDate.now(ZoneId.systemDefault()) : Times.day(from);
            Map<String, String> query = new HashMap<>(Ask.query(
                    "from",
                            first.atStartOfDay(ZoneId.systemDefault())
                                    .toInstant()
                                    .toString(),
                    "until",
                            first.plusDays(days)
                                    .atStartOfDay(ZoneId.systemDefault())
                                    .toInstant()
                                    .toString(),
                    "team", team));
            if (!record.isEmpty()) {
                query.put("record", Ask.record(http, record).id().toString());
            }
            UUID whose = of.isEmpty() ? null : Meeting.person(http, of);
            if (followed) {
                query.put("followed", "true");
            }
            if (of.isEmpty() && team.isEmpty() && record.isEmpty() && !followed) {
                whose = http.get("/api/session", Map.of(), jandrel.api.SessionApi.Whoami.class)
                        .person();
            }
            if (whose != null) {
                query.put("people", whose.toString());
            }
            CalendarPage page = http.get("/api/calendar", query, CalendarPage.class);
            Out out = out();
            if (out.json()) {
                out.objects(page.meetings());
                return page.meetings().isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("when", "ends", "what", "title", "about", "whose", "state", "id");
            for (MeetingInfo m : page.meetings()) {
                boolean full = m.visibility().equals("full");
                table.row(
                        out.time(m.begins(), m.allDay()),
                        m.allDay() ? "" : out.time(m.ends()).substring(11),
                        full ? m.sort() : "busy",
                        full ? m.title() : "",
                        m.account(),
                        Meeting.owners(m.owners()),
                        m.state(),
                        m.id());
            }
            return Ask.listed(
                    out, table, page.meetings().size(), page.meetings().size(), "meetings");
        }
    }

    @Command(name = "conflicts", description = "What was changed on both sides at once, and which side stands.")
    static final class Conflicts extends Ask {
        @Override
        public Integer call() {
            List<ConflictInfo> all = List.of(main().http().get("/api/conflicts", Map.of(), ConflictInfo[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("when", "meeting", "field", "here", "calendar", "stands", "id");
            all.forEach(c -> table.row(
                    out().time(c.at()),
                    c.title(),
                    c.field(),
                    c.here(),
                    c.calendar(),
                    c.broughtBackBy() == null ? c.stands() : "brought back",
                    c.id()));
            return Ask.listed(out(), table, all.size(), all.size(), "conflicts");
        }
    }

    @Command(name = "bring-back", description = "Restores the value that lost in a conflict.")
    static final class BringBack extends Meeting.OfOne {
        @Override
        public Integer call() {
            return say(
                    main().http().send("POST", "/api/conflicts/" + item + "/bring-back", Map.of(), MadeMeeting.class));
        }
    }

    @Command(name = "free", description = "When people are free at the same time.")
    static final class Free extends Ask {
        @Parameters(arity = "0..*", paramLabel = "WHO", description = "Keys, names or addresses.")
        private List<String> who = List.of();

        @Option(names = "--team", description = "All of a team.")
        private String team = "";

        @Option(names = "--for", description = "For how long, such as 30m or 1h.")
        private String length = "30m";

        @Option(names = "--from", description = "The first day; today if not given.")
        private String from = "";

        @Option(names = "--days", description = "How many; 5 if not given.")
        private int days = 5;

        @Override
        public Integer call() {
            Http http = main().http();
            ZoneId zone = ZoneId.systemDefault();
            LocalDate first = from.isEmpty() ? LocalDate.now(zone) : Times.day(from);
            Instant begins =
                    from.isEmpty() ? Instant.now() : first.atStartOfDay(zone).toInstant();
            String people =
                    who.stream().map(w -> Meeting.person(http, w).toString()).collect(Collectors.joining(","));
            FreePage page = http.get(
                    "/api/calendar/free",
                    Ask.query(
                            "from",
                            begins.toString(),
                            "until",
                            first.plusDays(days).atStartOfDay(zone).toInstant().toString(),
                            "people",
                            people,
                            "team",
                            team,
                            "minutes",
                            "" + Times.length(length).toMinutes(),
                            "zone",
                            zone.getId().equals("Z") ? "UTC" : zone.getId()),
                    FreePage.class);
            if (out().json()) {
                out().objects(List.of(page));
                return page.free().isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("free from", "until", ">hours");
            for (SpanInfo s : page.free()) {
                double hours = Duration.between(s.from(), s.until()).toMinutes() / 60.0;
                table.row(out().time(s.from()), out().time(s.until()).substring(11), String.format("%.1f", hours));
            }
            return Ask.listed(out(), table, page.free().size(), page.free().size(), "free stretches");
        }
    }

    @Command(
            name = "send-out",
            description =
                    "Sends to a person's calendar what was made here before it could go there; without --yes, only counts it.")
    static final class Send extends Ask {
        @Parameters(paramLabel = "WHO", description = "Key, name or address.")
        private String who = "";

        @Option(names = "--yes", description = "Does it.")
        private boolean yes;

        @Override
        public Integer call() {
            SentOut sent = main().http()
                    .send(
                            "POST",
                            "/api/meetings/send-out",
                            new SendOut(Meeting.person(main().http(), who), yes),
                            SentOut.class);
            if (out().json()) {
                out().objects(List.of(sent));
                return 0;
            }
            sent.titles().forEach(t -> out().say("  " + Table.printable(t)));
            out().say(Out.of(sent.meetings(), sent.meetings(), "meetings")
                    + (yes ? " are on their way." : " would go out. To do it: jandrel send-out --yes " + who));
            return sent.meetings() == 0 ? Trouble.NO : 0;
        }
    }

    @Command(
            name = "subscribe",
            description =
                    "Creates a secret address from which a calendar program reads a record's or a person's meetings.")
    static final class Subscribe extends Ask {
        @Parameters(
                paramLabel = "WHAT",
                description = "A record: id, or name if one has it; or with --person somebody of the company.")
        private String what = "";

        @Option(names = "--person", description = "It is a person.")
        private boolean isPerson;

        @Override
        public Integer call() {
            Http http = main().http();
            UUID id = isPerson
                    ? Meeting.person(http, what)
                    : Ask.record(http, what).id();
            FeedInfo feed =
                    http.send("POST", "/api/feeds", new NewFeed(isPerson ? "person" : "record", id), FeedInfo.class);
            if (out().json()) {
                out().objects(List.of(feed));
                return 0;
            }
            out().say("Anyone with this address can read what you see of " + Table.printable(feed.name())
                    + "; it is shown this once:");
            out().say(String.valueOf(feed.address()));
            out().say("To revoke it: jandrel unsubscribe " + feed.id());
            return 0;
        }
    }

    @Command(name = "subscriptions", description = "The secret addresses that you created.")
    static final class Subscriptions extends Ask {
        @Override
        public Integer call() {
            List<FeedInfo> all = List.of(main().http().get("/api/feeds", Map.of(), FeedInfo[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("of", "made", "last read", "id");
            all.forEach(f -> table.row(
                    f.name(),
                    out().time(f.madeAt()),
                    f.lastRead() == null ? "never" : out().time(f.lastRead()),
                    f.id()));
            return Ask.listed(out(), table, all.size(), all.size(), "subscriptions");
        }
    }

    @Command(name = "unsubscribe", description = "Revokes a secret address.")
    static final class Unsubscribe extends Meeting.OfOne {
        @Override
        public Integer call() {
            main().http().send("DELETE", "/api/feeds/" + item);
            return 0;
        }
    }

    @Command(name = "in-step", description = "How each calendar compares with what was made or changed here.")
    static final class InStep extends Ask {
        @Override
        public Integer call() {
            InStepPage page = main().http().get("/api/in-step", Map.of(), InStepPage.class);
            if (out().json()) {
                out().objects(page.calendars());
                return page.calendars().isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table(
                    "whose",
                    "calendar",
                    "state",
                    "last run",
                    "next",
                    ">alike",
                    ">pending",
                    ">conflicts",
                    "brought",
                    ">source");
            page.calendars()
                    .forEach(c -> table.row(
                            c.personName(),
                            c.label() + (c.outgoing() ? " (out)" : ""),
                            c.held() ? "held" : c.state(),
                            c.lastRun() == null ? "never" : out().time(c.lastRun()),
                            c.nextRun() == null ? "" : out().time(c.nextRun()).substring(11),
                            c.alike(),
                            c.pendingSync(),
                            c.conflicts(),
                            brought(c.brought()),
                            c.source()));
            int listed = Ask.listed(
                    out(), table, page.calendars().size(), page.calendars().size(), "calendars");
            page.here()
                    .forEach(h -> out().say(h.personName() + ": " + h.meetings() + " made here"
                            + " in no calendar"
                            + (h.couldGo() == 0
                                    ? ", as the policy has it"
                                    : "; to send out " + h.couldGo() + ": jandrel send-out " + h.personName())));
            page.calendars().stream()
                    .filter(CalendarStand::held)
                    .forEach(c -> out().say("Much vanished from “" + c.label() + "” of " + c.personName()
                            + " at once; what, and whether that is meant: jandrel let-pass " + c.source()));
            return listed;
        }
    }

    /** What a sync run did, without what it did not do. */
    private static String brought(@Nullable RunCounts run) {
        if (run == null) {
            return "";
        }
        Map<String, Integer> counts = new LinkedHashMap<>();
        counts.put("read", run.read());
        counts.put("gone", run.gone());
        counts.put("sent", run.sent());
        counts.put("received", run.received());
        counts.put("merged", run.merged());
        counts.put("refused", run.refused());
        return counts.entrySet().stream()
                .filter(e -> e.getValue() > 0)
                .map(e -> e.getKey() + " " + e.getValue())
                .collect(Collectors.joining(", "));
    }

    @Command(
            name = "let-pass",
            description = "Shows what vanished from a calendar that is held for it; --yes confirms that it was meant.")
    static final class LetPass extends Ask {
        @Parameters(paramLabel = "SOURCE", description = "As “jandrel in-step” shows it.")
        private int source;

        @Option(names = "--yes", description = "It was meant: what vanished leaves the timelines as the policy says.")
        private boolean yes;

        @Override
        public Integer call() {
            Http http = main().http();
            if (yes) {
                http.tell("POST", "/api/sources/" + source + "/let-pass", Map.of());
                out().say("It is synced again in a moment.");
                return 0;
            }
            HeldInfo held = http.get("/api/sources/" + source + "/held", Map.of(), HeldInfo.class);
            if (out().json()) {
                out().objects(List.of(held));
                return 0;
            }
            out().say(held.says());
            Table table = new Table("when", "title");
            held.meetings().forEach(m -> table.row(out().time(m.begins()), m.title()));
            return Ask.listed(
                    out(), table, held.meetings().size(), held.meetings().size(), "meetings");
        }
    }

    @Command(name = "followed", description = "The records that you follow.")
    static final class Followed extends Ask {
        @Override
        public Integer call() {
            List<FollowedInfo> all = List.of(main().http().get("/api/followed", Map.of(), FollowedInfo[].class));
            if (out().json()) {
                out().objects(all);
                return 0;
            }
            Table table = new Table("kind", "name", "id");
            all.forEach(f -> table.row(f.kind(), f.name(), f.id()));
            return Ask.listed(out(), table, all.size(), all.size(), "records");
        }
    }

    @Command(
            name = "follow",
            description = "Follows a record: it is in “agenda --followed” and in the console’s calendar.")
    static final class Follow extends Ask {
        @Parameters(paramLabel = "RECORD", description = "Id, or name if one has it.")
        private String record = "";

        @Option(names = "--no-more", description = "Lets it go.")
        private boolean noMore;

        @Override
        public Integer call() {
            Http http = main().http();
            String path = "/api/followed/" + Ask.record(http, record).id();
            if (noMore) {
                http.send("DELETE", path);
            } else {
                http.tell("PUT", path, Map.of());
            }
            return 0;
        }
    }
}
