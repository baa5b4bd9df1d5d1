package jandrel.client;

import jandrel.api.TriageApi.Choice;
import jandrel.api.TriageApi.DeedInfo;
import jandrel.api.TriageApi.DomainInfo;
import jandrel.api.TriageApi.MadeRecord;
import jandrel.api.TriageApi.Merge;
import jandrel.api.TriageApi.NewRecord;
import jandrel.api.TriageApi.Pin;
import jandrel.api.TriageApi.Settled;
import jandrel.api.TriageApi.StrangerInfo;
import jandrel.api.TriageApi.StrangerPage;
import jandrel.api.TriageApi.TwinsInfo;
import jandrel.api.TriageApi.TwoPeople;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Strangers, and what is done about them. */
final class Triaging {
    private Triaging() {}

    @Command(name = "strangers", description = "People on mail and meetings who match no record, best first.")
    static final class Strangers extends Ask {
        @Option(names = "--find", description = "A part of a name or an address.")
        private String find = "";

        @Option(names = "--limit", description = "How many; 50 if not given.")
        private int limit = 50;

        @Override
        public Integer call() {
            StrangerPage page =
                    main().http().get("/api/triage", Ask.query("find", find, "limit", "" + limit), StrangerPage.class);
            List<StrangerInfo> all = new ArrayList<>();
            page.domains().stream().map(DomainInfo::strangers).forEach(all::addAll);
            Out out = out();
            if (out.json()) {
                out.objects(all);
                return all.isEmpty() ? Trouble.NO : 0;
            }
            Table table =
                    new Table("address", "name", ">in", ">out", ">meetings", ">of us", "last", ">waiting", "likely");
            all.forEach(s -> table.row(
                    s.address(),
                    s.name(),
                    s.in(),
                    s.out(),
                    s.meetings(),
                    s.people(),
                    out.time(s.last()),
                    s.waiting(),
                    s.likely().stream()
                            .limit(1)
                            .map(l -> l.name() + ": " + l.why())
                            .collect(Collectors.joining())));
            return Ask.listed(out, table, all.size(), page.total(), "strangers");
        }
    }

    @Command(
            name = "settle",
            description =
                    "Says who unmatched people are; their items are decided again. “jandrel take-back” undoes it.")
    static final class Settle extends Ask {
        @Parameters(
                paramLabel = "CHOICE",
                description =
                        "contact, new-contact, new-lead, new-account, new-opportunity, exclude or not-interesting")
        private String choice = "";

        @Parameters(
                arity = "1..*",
                paramLabel = "WHO",
                description = "Addresses; a domain means all strangers under it.")
        private List<String> who = List.of();

        @Option(
                names = "--record",
                description = "The contact, or the account of new contacts: id, or name if one has it.")
        private String record = "";

        @Option(names = "--name", description = "What the new record is called.")
        private @Nullable String name;

        @Override
        public Integer call() {
            Http http = main().http();
            UUID id = record.isEmpty() ? null : Ask.record(http, record).id();
            Settled settled = http.send(
                    "POST",
                    "/api/triage/settle",
                    new Choice(
                            choice,
                            who.stream().filter(w -> w.contains("@")).toList(),
                            who.stream().filter(w -> !w.contains("@")).toList(),
                            id,
                            name),
                    Settled.class);
            if (out().json()) {
                out().objects(List.of(settled));
                return 0;
            }
            out().say(saidOf(settled));
            return 0;
        }
    }

    @Command(
            name = "make-record",
            description = "Creates a contact, lead, account or opportunity from what an activity shows, and links it.")
    static final class MakeRecord extends Ask {
        @Parameters(index = "0", paramLabel = "KIND", description = "contact, lead, account or opportunity")
        private String kind = "";

        @Parameters(index = "1", paramLabel = "NAME", description = "What it is called.")
        private String name = "";

        @Option(names = "--from", description = "The activity: its id.")
        private @Nullable UUID item;

        @Option(names = "--address", description = "Of a contact or a lead.")
        private @Nullable String address;

        @Option(names = "--at", description = "The account of a contact or an opportunity: id, or name if one has it.")
        private String account = "";

        @Option(names = "--domain", description = "Of an account.")
        private @Nullable String domain;

        @Option(names = "--phone", description = "A contact's telephone number; may be given several times.")
        private List<String> phones = List.of();

        @Override
        public Integer call() {
            Http http = main().http();
            UUID at = account.isEmpty() ? null : Ask.record(http, account).id();
            NewRecord wanted = new NewRecord(kind, name, address, at, domain, phones, item);
            MadeRecord made = http.send("POST", "/api/records", wanted, MadeRecord.class);
            if (out().json()) {
                out().objects(List.of(made));
                return 0;
            }
            out().say(Table.printable(made.says()) + ". To undo it: jandrel take-back " + made.deed());
            out().say(made.id().toString());
            return 0;
        }
    }

    @Command(name = "settled", description = "What was done about unmatched people lately.")
    static final class Deeds extends Ask {
        @Override
        public Integer call() {
            List<DeedInfo> deeds = List.of(main().http().get("/api/triage/deeds", Map.of(), DeedInfo[].class));
            if (out().json()) {
                out().objects(deeds);
                return 0;
            }
            Table table = new Table("when", "who", "did", "undone", "id");
            deeds.forEach(d -> table.row(out().time(d.at()), d.by(), d.says(), d.undone() ? "yes" : "", d.id()));
            return Ask.listed(out(), table, deeds.size(), deeds.size(), "choices");
        }
    }

    @Command(
            name = "take-back",
            description = "Undoes what was done about unmatched people: the last choice, or one by its id.")
    static final class TakeBack extends Ask {
        @Parameters(arity = "0..1", paramLabel = "ID", description = "As “jandrel settled” lists it.")
        private String id = "";

        @Override
        public Integer call() {
            Http http = main().http();
            DeedInfo deed = List.of(http.get("/api/triage/deeds", Map.of(), DeedInfo[].class)).stream()
                    .filter(d -> id.isEmpty() ? !d.undone() : d.id().toString().equals(id))
                    .findFirst()
                    .orElseThrow(() -> new Trouble(Trouble.NO, "there is nothing to undo"));
            http.send("POST", "/api/triage/deeds/" + deed.id() + "/undo");
            out().say("Undone: " + Table.printable(deed.says()) + ".");
            return 0;
        }
    }

    @Command(name = "twins", description = "Contacts and accounts that may be the same.")
    static final class Twins extends Ask {
        @Parameters(
                paramLabel = "RECORD",
                arity = "0..1",
                description = "One of each pair: an id, or a name that only one has.")
        private String record = "";

        @Override
        public Integer call() {
            List<TwinsInfo> twins = List.of(main().http()
                    .get(
                            "/api/triage/twins",
                            record.isEmpty()
                                    ? Map.of()
                                    : Map.of(
                                            "of",
                                            Ask.recordId(main().http(), record).toString()),
                            TwinsInfo[].class));
            if (out().json()) {
                out().objects(twins);
                return twins.isEmpty() ? Trouble.NO : 0;
            }
            Table table = new Table("kind", "one", "other", "account", "why", "id of one", "id of the other");
            twins.forEach(t -> table.row(
                    t.kind(),
                    named(t.oneName(), t.oneAddress()),
                    named(t.otherName(), t.otherAddress()),
                    t.account(),
                    t.why(),
                    t.one(),
                    t.other()));
            return Ask.listed(out(), table, twins.size(), twins.size(), "pairs");
        }
    }

    private static String saidOf(Settled done) {
        return Table.printable(done.says()) + ": " + (done.items() == 1 ? "1 item is" : done.items() + " items are")
                + " decided again.";
    }

    private static String named(String name, String address) {
        return address.isEmpty() ? name : name + " <" + address + ">";
    }

    @Command(name = "merge", description = "Merges two contacts, accounts or leads; “jandrel take-back” undoes it.")
    static final class MergeTwo extends Ask {
        @Parameters(paramLabel = "STAYS", description = "The record that stays: its id, or a name that only one has.")
        private String stays = "";

        @Parameters(paramLabel = "GOES", description = "The one that becomes a part of it.")
        private String goes = "";

        @Override
        public Integer call() {
            Http http = main().http();
            Merge merge = new Merge(Ask.recordId(http, stays), Ask.recordId(http, goes));
            Settled done = http.send("POST", "/api/triage/merge", merge, Settled.class);
            out().say(saidOf(done) + " To undo it: jandrel take-back " + done.deed());
            return 0;
        }
    }

    @Command(
            name = "apart",
            description = "Says that two contacts, or two accounts, are two: “jandrel twins” does not name them again.")
    static final class TellApart extends Ask {
        @Parameters(paramLabel = "ONE", description = "One of them: its id, or a name that only one has.")
        private String one = "";

        @Parameters(paramLabel = "OTHER", description = "The other, likewise.")
        private String other = "";

        @Override
        public Integer call() {
            Http http = main().http();
            TwoPeople two = new TwoPeople(Ask.recordId(http, one), Ask.recordId(http, other));
            Settled done = http.send("POST", "/api/triage/apart", two, Settled.class);
            out().say(Table.printable(done.says()) + ".");
            return 0;
        }
    }

    @Command(name = "pin", description = "Links an item to a record by your own choice, which nothing overwrites.")
    static final class PinItem extends Ask {
        @Parameters(paramLabel = "ITEM", description = "The id of an activity, or the item of a decision.")
        private UUID item = new UUID(0, 0);

        @Parameters(paramLabel = "RECORD", description = "Its id, or its name if only one has it.")
        private String record = "";

        @Option(names = "--off", description = "Takes it away again.")
        private boolean off;

        @Override
        public Integer call() {
            Http http = main().http();
            jandrel.api.RecordApi.RecordInfo found = Ask.record(http, record);
            if (off) {
                http.send("DELETE", "/api/items/" + item + "/pins/" + found.id());
            } else {
                http.tell("POST", "/api/items/" + item + "/pins", new Pin(found.id()));
            }
            out().say((off ? "No longer pinned to " : "Pinned to ") + Table.printable(found.name()) + ".");
            return 0;
        }
    }
}
