package jandrel.client;

import jandrel.api.RehearsalApi.Background;
import jandrel.api.RehearsalApi.Change;
import jandrel.api.RehearsalApi.Counts;
import jandrel.api.RehearsalApi.Example;
import jandrel.api.RehearsalApi.RehearsalInfo;
import jandrel.api.RehearsalApi.Report;
import jandrel.api.RehearsalApi.Tally;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** Says what a change would do before it is made. */
final class RehearsalCommands {
    private static final int EXAMPLES = 4;
    private static final int TALLIES = 8;

    private RehearsalCommands() {}

    static int rehearse(Http http, Out out, Change change) {
        RehearsalInfo done = run(http, out, change);
        if (out.json()) {
            out.objects(List.of(done));
            return 0;
        }
        print(out, Objects.requireNonNull(done.report()));
        out.say("");
        out.say("Nothing was changed. To do exactly this: jandrel apply " + done.id());
        return 0;
    }

    /** Waits for it; long ones show how far they are. */
    static RehearsalInfo run(Http http, Out out, Change change) {
        RehearsalInfo now = http.send("POST", "/api/rehearsals", change, RehearsalInfo.class);
        long began = System.nanoTime();
        boolean shown = false;
        while (now.state().equals("running")) {
            pause();
            now = http.get("/api/rehearsals/" + now.id(), Map.of(), RehearsalInfo.class);
            if (System.nanoTime() - began > 1_500_000_000L && !out.json()) {
                System.err.printf("\rrehearsing: %,d of %,d items ", now.done(), now.total());
                shown = true;
            }
        }
        if (shown) {
            System.err.println();
        }
        if (!now.state().equals("done")) {
            throw new Trouble(Trouble.REACH, "the rehearsal " + now.state() + ": " + now.detail());
        }
        return now;
    }

    private static void pause() {
        try {
            Thread.sleep(120);
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            throw new Trouble(Trouble.REACH, "stopped waiting for the rehearsal");
        }
    }

    static void print(Out out, Report r) {
        out.say(String.format("This touches %,d items; %,d decisions would differ.", r.items(), r.decisions()));
        if (r.fetched() > 0) {
            out.say(String.format("Of %,d of them nothing is kept: their headers were fetched to tell.", r.fetched()));
        }
        out.say("On timelines: " + words(r.activities()) + ".");
        tallies(out, "By person", r.byPerson());
        tallies(out, "By account", r.byAccount());
        tallies(out, "By reason", r.byReason());
        r.notes().forEach(n -> out.say("Note: " + n));
        r.examples().stream().limit(EXAMPLES).forEach(e -> example(out, e));
    }

    static String words(Counts c) {
        return String.format(
                "%,d appear, %,d vanish, %,d are read by others, %,d are linked otherwise",
                c.appear(), c.vanish(), c.readers(), c.links());
    }

    private static void tallies(Out out, String title, List<Tally> tallies) {
        if (tallies.isEmpty()) {
            return;
        }
        out.say("");
        Table table = new Table(title, ">appear", ">vanish", ">other readers", ">other links");
        tallies.stream()
                .limit(TALLIES)
                .forEach(t -> table.row(
                        t.name(),
                        t.counts().appear(),
                        t.counts().vanish(),
                        t.counts().readers(),
                        t.counts().links()));
        out.table(table);
        if (tallies.size() > TALLIES) {
            out.say("and " + (tallies.size() - TALLIES) + " more");
        }
    }

    private static void example(Out out, Example e) {
        out.say("");
        out.say("Example: " + e.kind() + " of " + out.time(e.at()) + " (" + e.person() + ") – "
                + String.join(", ", e.effects()));
        e.before().forEach(s -> out.say("  now   " + s));
        e.after().forEach(s -> out.say("  then  " + s));
    }

    @Command(name = "apply", description = "Applies a change exactly as it was rehearsed.")
    static final class Apply extends Ask {
        @Parameters(paramLabel = "REHEARSAL", description = "Its id.")
        private String id = "";

        @Override
        public Integer call() {
            RehearsalInfo now =
                    main().http().send("POST", "/api/rehearsals/" + id + "/apply", Map.of(), RehearsalInfo.class);
            if (out().json()) {
                out().objects(List.of(now));
            }
            out().say("Applied; what follows from it is done in the background (jandrel background).");
            return 0;
        }
    }

    @Command(name = "undo", description = "Undoes what was applied.")
    static final class Undo extends Ask {
        @Parameters(paramLabel = "REHEARSAL", description = "The id it was applied by.")
        private String id = "";

        @Override
        public Integer call() {
            main().http().send("POST", "/api/rehearsals/" + id + "/undo", Map.of(), RehearsalInfo.class);
            out().say("Undone.");
            return 0;
        }
    }

    @Command(name = "background", description = "How much is left to re-evaluate; pauses or resumes it.")
    static final class InBackground extends Ask {
        @Parameters(paramLabel = "WHAT", arity = "0..1", description = "pause or resume; nothing to look.")
        private String what = "";

        @Override
        public Integer call() {
            Http http = main().http();
            if (!List.of("", "pause", "resume").contains(what)) {
                throw new Trouble(Trouble.USE, "“" + what + "” is neither pause nor resume");
            }
            Background b = what.isEmpty()
                    ? http.get("/api/background", Map.of(), Background.class)
                    : http.send("POST", "/api/background/" + what, Map.of(), Background.class);
            if (out().json()) {
                out().objects(List.of(b));
            }
            out().say(String.format(
                    "%,d decisions to be made again, %,d items to be fetched once more%s",
                    b.left(), b.toFetch(), b.paused() ? "; paused" : ""));
            return 0;
        }
    }
}
