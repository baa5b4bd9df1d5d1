package jandrel.store.capture;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Decider;
import jandrel.core.decide.Decision;
import jandrel.core.decide.ManualOverride;
import jandrel.core.directory.DirectoryRows;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.DirectoryRows.OpportunityState;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.Exclusion.Kind;
import jandrel.core.directory.Exclusion.Limits;
import jandrel.core.directory.ImportRejected;
import jandrel.core.directory.RecordKind;
import jandrel.core.item.Content;
import jandrel.core.item.Inside;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.Sketch;
import jandrel.core.item.ThreadHeaders;
import jandrel.core.policy.Audience;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Handling;
import jandrel.core.policy.Handling.Vanished;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.policy.Scope;
import jandrel.core.policy.Ties;
import jandrel.core.rehearse.Draft;
import jandrel.store.StoreContext;
import jandrel.store.connections.Connections;
import jandrel.store.connections.SourceSettings;
import jandrel.store.directory.Amending;
import jandrel.store.directory.Company;
import jandrel.store.directory.Directory;
import jandrel.store.directory.DirectoryMapper;
import jandrel.store.directory.Merging;
import jandrel.store.directory.RecordRefs;
import jandrel.store.directory.Slices;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.ItemKeys;
import jandrel.store.kernel.Json;
import jandrel.store.people.CoverPeriod;
import jandrel.store.people.PeopleImport;
import jandrel.store.policy.Exclusions;
import jandrel.store.policy.Policies;
import jandrel.store.policy.Roster;
import jandrel.store.triage.Pins;
import java.sql.SQLException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.LongStream;

/** Histories by chance of all that moves timelines: mail and meetings in any order, and every kind of change. A seed replays one. */
public final class Histories {
    private static final LocalDate TODAY = Scene.NOON.atOffset(ZoneOffset.UTC).toLocalDate();
    private static final String[] PEOPLE = {
        "p0@corvane.example", "p1@corvane.example", "p2@aside.example", "p.2@aside.example", "new@corvane.example"
    };
    private static final String[] OUTSIDE = {
        "a@one.example",
        "b@one.example",
        "c@sub.one.example",
        "d@two.example",
        "e@free.example",
        "e.e@free.example",
        "f@nobody.example",
        "a+x@one.example",
        "d+y@two.example"
    };
    private static final String[] DOMAINS = {
        "@one.example", "@sub.one.example", "@two.example", "@free.example", "@aside.example"
    };

    private final StoreContext store;
    private final Random random;
    private final Scene scene;
    private final List<SourceRef> places;
    private final Map<Integer, Map<String, Shown>> sources = new LinkedHashMap<>();
    /** A calendar in which nothing is: it comes and goes. */
    private final SourceRef empty;
    /** Sources that are read from their beginning at the next look. */
    private final Set<SourceRef> fromTheBeginning = new HashSet<>();

    private final Deque<Merged> merged = new ArrayDeque<>();

    /** What a source shows at a position, and what its owner chose for it. */
    private record Shown(Item item, ManualOverride hand) {}

    private record Merged(String kind, UUID stays, String before) {}

    /** Whether it is made is the caller's choice. */
    public record Change(String what, Draft draft, Runnable make) {
        private static Change undrafted(String what, Runnable make) {
            return new Change(what, Draft.NONE, make);
        }

        public boolean canBeRehearsed() {
            return draft != Draft.NONE;
        }

        @Override
        public String toString() {
            return what;
        }
    }

    @FunctionalInterface
    private interface Making {
        void run() throws ImportRejected;
    }

    public Histories(StoreContext store, long seed) throws Exception {
        this.store = store;
        random = new Random(seed);
        scene = Scene.anew(store).people(3).account("one", "one.example").account("two");
        places = List.of(scene.place(0), scene.place(1), scene.place(1), scene.calendar(1), scene.calendar(2));
        empty = scene.calendar(0);
        places.forEach(p -> sources.put(p.source(), new LinkedHashMap<>()));
    }

    /** @return as many as usual, or as {@code -Djandrel.histories=N} says, from {@code -Djandrel.seed=N} on */
    public static LongStream seeds(int usual) {
        long first = Long.getLong("jandrel.seed", 1);
        return LongStream.range(first, first + Long.getLong("jandrel.histories", usual));
    }

    public Change next() {
        return switch (random.nextInt(24)) {
            case 0, 1, 2, 3, 4, 5 -> Change.undrafted("arrives", this::arrive);
            case 6, 7 -> excluding();
            case 8 -> including();
            case 9 -> domains();
            case 10, 11, 12 -> policy();
            case 13 ->
                undrafted(
                        "dotless",
                        () -> store.get(Company.class).dotless(some("@free.example", "@aside.example"), "t"));
            case 14 -> undrafted("contact", this::contact);
            case 15 -> undrafted("lead", this::lead);
            case 16 -> undrafted("opportunity", this::opportunity);
            case 17 -> undrafted("remove", this::remove);
            case 18 -> Change.undrafted("pin", this::pin);
            case 19 -> Change.undrafted("merge", random.nextBoolean() ? this::merge : this::split);
            case 20 -> undrafted("people", this::people);
            case 21 -> Change.undrafted("cover", this::cover);
            case 22 -> Change.undrafted("counting", this::counting);
            default -> Change.undrafted("calendar", this::calendar);
        };
    }

    private static Change undrafted(String what, Making make) {
        return Change.undrafted(what, () -> {
            try {
                make.run();
            } catch (ImportRejected refused) {
                // as anybody's file may be; nothing of it is taken then
            }
        });
    }

    public void arrive() {
        SourceRef place = places.get(random.nextInt(places.size()));
        boolean calendar = places.indexOf(place) > 2;
        int n = random.nextInt(14);
        Item item = calendar ? meeting(n) : mail(n);
        ManualOverride hand = calendar ? ManualOverride.NONE : hand();
        String position = (calendar ? "m" : "1/") + n;
        sources.get(place.source()).put(position, new Shown(item, hand));
        take(place, position);
    }

    private ManualOverride hand() {
        return switch (random.nextInt(10)) {
            case 0 -> ManualOverride.count("keyword “crm”");
            case 1 -> ManualOverride.keepOut("keyword “private”");
            default -> ManualOverride.NONE;
        };
    }

    private void take(SourceRef place, String position) {
        Shown shown = sources.get(place.source()).get(position);
        FetchedItem seen = new FetchedItem(
                position,
                shown.item(),
                () -> new Content("text of " + shown.item().identity() + sketch(shown.item()), "", List.of()),
                List::of,
                shown.hand());
        store.get(Intake.class).take(place, List.of(seen), List.of(), null);
    }

    private static String sketch(Item item) {
        return item instanceof MailItem mail ? mail.sketch() : "";
    }

    /** What an item says follows from its number alone, so that it is the same wherever it is shown. */
    private MailItem mail(int n) {
        Random of = new Random(n);
        List<Party> parties = new ArrayList<>(List.of(party(Part.FROM, of)));
        for (int i = 0; i < of.nextInt(4); i++) {
            parties.add(party(of.nextInt(5) == 0 ? Part.BCC : Part.TO, of));
        }
        Nature.Kind kind = of.nextInt(3) > 0 ? Nature.Kind.ORDINARY : Nature.Kind.values()[of.nextInt(6)];
        Inside inside = switch (of.nextInt(4)) {
            case 0 -> new Inside(new Inside.Carried("REQUEST", "u" + n), null, false);
            case 1 -> new Inside(null, new Inside.Forwarded(EmailAddress.of(any(of, OUTSIDE)), ""), false);
            default -> Inside.NOTHING;
        };
        // another may say that it is the same
        String text = (random.nextInt(5) == 0 ? "not the text of " : "text of ") + n;
        List<String> markers = of.nextBoolean() ? List.of("list-id: <buoys.one.example>") : List.of();
        return new MailItem(
                "mail:m" + n,
                Scene.NOON.minus(Duration.ofDays(of.nextInt(40))),
                true,
                parties,
                "About " + n,
                new Nature(kind, kind == Nature.Kind.ORDINARY ? "" : "Precedence: bulk"),
                markers,
                ThreadHeaders.NONE,
                inside,
                Sketch.of(text));
    }

    private static MeetingItem meeting(int n) {
        Random of = new Random(100 + n);
        List<Party> parties = new ArrayList<>();
        if (of.nextInt(4) > 0) {
            parties.add(party(Part.ORGANISER, of));
        }
        for (int i = 0; i < of.nextInt(4); i++) {
            parties.add(party(of.nextBoolean() ? Part.ACCEPTED : Part.DECLINED, of));
        }
        var at = Scene.NOON.minus(Duration.ofDays(of.nextInt(40)));
        return new MeetingItem(
                "meeting:u" + n,
                "u" + n,
                of.nextInt(3) == 0 ? at : null,
                at,
                at.plusSeconds(3_600),
                false,
                "",
                parties,
                "About buoys " + n,
                "",
                "",
                MeetingItem.Privacy.values()[of.nextInt(3)],
                MeetingItem.State.values()[of.nextInt(2)],
                0,
                0,
                of.nextBoolean() ? List.of("dentist") : List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
    }

    private static Party party(Part part, Random of) {
        return new Party(part, EmailAddress.of(of.nextInt(3) == 0 ? any(of, PEOPLE) : any(of, OUTSIDE)), "");
    }

    private static String any(Random of, String... texts) {
        return texts[of.nextInt(texts.length)];
    }

    private Set<String> some(String... of) {
        Set<String> some = new TreeSet<>();
        for (String one : of) {
            if (random.nextBoolean()) {
                some.add(one);
            }
        }
        return some;
    }

    private Change excluding() {
        Kind kind = Kind.values()[random.nextInt(Kind.values().length)];
        String address = any(random, OUTSIDE);
        String domain = address.substring(address.indexOf('@'));
        String what = switch (kind) {
            case ADDRESS -> address;
            case DOMAIN, DOMAIN_ALONE -> domain;
            case PATTERN -> "?" + domain;
            case HEADER -> "list-id: *buoys*";
            case LIST -> "buoys.one.example";
            case CATEGORY -> "dentist";
            case CLASS -> random.nextBoolean() ? "private" : "confidential";
            case TITLE -> "about buoys";
        };
        List<Policy> policies = store.get(Policies.class).inOrder();
        Limits limits = switch (random.nextInt(4)) {
            case 0 -> new Limits(null, scene.person(random.nextInt(3)), null);
            case 1 -> new Limits(policies.get(random.nextInt(policies.size())).id(), null, null);
            case 2 -> new Limits(null, null, TODAY.minusDays(random.nextInt(40)));
            default -> Limits.NONE;
        };
        List<Exclusion> all = List.of(new Exclusion(UUID.randomUUID(), kind, what, "", limits));
        Exclusions exclusions = store.get(Exclusions.class);
        return new Change("exclude " + all, Draft.excluding(all), () -> exclusions.add(all, "t"));
    }

    private Change including() {
        List<Exclusions.Listed> all = store.get(Exclusions.class).all();
        if (all.isEmpty()) {
            return Change.undrafted("nothing", () -> {});
        }
        Exclusions.Listed one = all.get(random.nextInt(all.size()));
        return new Change(
                "include " + one,
                Draft.including(Set.of(one.id())),
                () -> store.get(Exclusions.class).remove(List.of(one.id()), "t"));
    }

    private Change domains() {
        Set<String> own = some("@corvane.example", "@two.example", "@aside.example");
        Set<String> free = random.nextBoolean() ? Set.of("@free.example") : Set.of("@one.example");
        return new Change(
                "domains " + own + free,
                Draft.ofDomains(own, free),
                () -> store.get(Company.class).change(own, free, "t"));
    }

    private Change policy() {
        Policies policies = store.get(Policies.class);
        List<Policy> inOrder = new ArrayList<>(policies.inOrder());
        if (inOrder.size() < 3) {
            Audience nobody = new Audience(false, Set.of(), Set.of(), Set.of());
            Policy added = Policy.first()
                    .named(UUID.randomUUID(), 1, "P" + inOrder.size())
                    .with(nobody);
            inOrder.add(0, policies.add(added, "t"));
        }
        int at = random.nextInt(inOrder.size());
        Policy wanted = changed(inOrder.get(at));
        inOrder.set(at, wanted);
        return new Change("policy " + wanted, Draft.of(inOrder), () -> policies.change(wanted, "t"));
    }

    private Policy changed(Policy now) {
        return switch (random.nextInt(5)) {
            case 0 ->
                now.with(new Scope(
                        random.nextInt(4) > 0,
                        random.nextInt(4) > 0,
                        Direction.values()[random.nextInt(4)],
                        Direction.NONE,
                        random.nextInt(4) * 10,
                        60));
            case 1 ->
                now.with(new Handling(
                        Handling.Private.values()[random.nextInt(2)],
                        Vanished.values()[random.nextInt(3)],
                        Vanished.REMOVE,
                        Vanished.KEEP,
                        Handling.Series.values()[random.nextInt(2)],
                        ""));
            case 2 ->
                now.with(new Ties(
                        random.nextBoolean() ? Ties.SAFE.kinds() : Set.of(RecordKind.ACCOUNT, RecordKind.LEAD),
                        Ties.TieBreak.values()[random.nextInt(Ties.TieBreak.values().length)],
                        random.nextBoolean()));
            case 3 -> now.with(Sharing.values()[random.nextInt(4)]);
            default -> now.with(new Audience(random.nextInt(3) == 0, some("p0", "p1", "p2"), some("West"), Set.of()));
        };
    }

    private void contact() throws ImportRejected {
        String account = any(random, "one", "two", "");
        LocalDate since = random.nextBoolean() ? null : TODAY.minusDays(random.nextInt(40));
        scene.contactSince("c" + random.nextInt(4), account, since, any(random, OUTSIDE));
        if (random.nextInt(4) == 0) {
            scene.accountPartOf("two", any(random, "one", ""));
        }
    }

    private void lead() throws ImportRejected {
        List<EmailAddress> addresses = Scene.addresses(any(random, OUTSIDE));
        store.get(Directory.class).leads(List.of(new LeadRow(2, "l" + random.nextInt(2), "Lead", addresses, "", "")));
    }

    private void remove() {
        Set<String> contacts = Set.of("c" + random.nextInt(4));
        Set<String> opportunities = Set.of("o" + random.nextInt(4));
        store.get(Amending.class).remove(contacts, Set.of("l" + random.nextInt(2)), List.of(), opportunities);
    }

    private void opportunity() throws ImportRejected {
        List<String> contacts = contacts("c" + random.nextInt(4)).stream()
                .map(FileImport.Ref::key)
                .toList();
        OpportunityState state = random.nextInt(3) > 0 ? OpportunityState.OPEN : OpportunityState.LOST;
        String owner = random.nextBoolean() ? "p" + random.nextInt(3) : "";
        store.get(Directory.class)
                .opportunities(List.of(new OpportunityRow(
                        2,
                        "o" + random.nextInt(4),
                        "Opp",
                        any(random, "one", "two"),
                        "",
                        state,
                        null,
                        "",
                        DirectoryRows.Period.ONCE,
                        "",
                        owner,
                        contacts)));
    }

    private List<FileImport.Ref> contacts(String... keys) {
        return store.get(DirectoryMapper.class).contactIds(keys);
    }

    private void pin() {
        int n = random.nextInt(14);
        UUID item = store.get(ItemKeys.class).item(random.nextInt(3) > 0 ? "mail:m" + n : "meeting:u" + n);
        List<UUID> records = new ArrayList<>();
        contacts("c" + random.nextInt(4)).forEach(c -> records.add(c.id()));
        String[] account = {any(random, "one", "two")};
        records.add(
                store.get(DirectoryMapper.class).accountsNamed(account).get(0).id());
        Pins pins = store.get(Pins.class);
        if (random.nextInt(3) == 0) {
            pins.unpin(item, records.get(0), "t");
        } else {
            pins.pin(item, store.get(RecordRefs.class).find(records.get(0)).orElseThrow(), "t");
        }
    }

    private void merge() {
        String kind = any(random, "contact", "contact", "account", "lead");
        DirectoryMapper directory = store.get(DirectoryMapper.class);
        List<FileImport.Ref> found = switch (kind) {
            case "contact" -> contacts("c0", "c1", "c2", "c3");
            case "account" -> directory.accountIds(new String[] {"one", "two"});
            default ->
                store.get(RecordRefs.class).byKeys("lead", new String[] {"l0", "l1"}).stream()
                        .map(l -> new FileImport.Ref(l.key(), l.id()))
                        .toList();
        };
        if (found.size() > 1) {
            int stays = random.nextInt(found.size());
            UUID stay = found.get(stays).id();
            UUID goes = found.get((stays + 1) % found.size()).id();
            merged.push(new Merged(kind, stay, store.get(Merging.class).merge(kind, stay, goes)));
        }
    }

    /** The last merge is taken back, as long as the record that stayed is there. */
    private void split() {
        Merged last = merged.poll();
        if (last != null && store.get(RecordRefs.class).find(last.stays()).isPresent()) {
            store.get(Merging.class).split(last.kind(), last.stays(), last.before());
        }
    }

    private void people() throws ImportRejected {
        int n = random.nextInt(3);
        Set<String> addresses = some(PEOPLE);
        addresses.add("p" + n + "@corvane.example");
        store.get(PeopleImport.class)
                .take(List.of(new PersonRow(
                        2,
                        "p" + n,
                        "Person " + n,
                        Scene.addresses(addresses.toArray(String[]::new)),
                        any(random, "East", "West"),
                        "rep")));
    }

    private void cover() {
        UUID person = scene.person(random.nextInt(3));
        if (random.nextBoolean()) {
            LocalDate until = random.nextBoolean() ? null : TODAY.minusDays(random.nextInt(40));
            store.get(CoverPeriod.class).end(person, until, "t");
        } else {
            store.get(Roster.class).sharing(person, Sharing.values()[random.nextInt(4)], "t");
        }
    }

    private void counting() {
        SourceRef place = places.get(random.nextInt(3));
        UUID connection = store.get(Connections.class)
                .source(place.source())
                .orElseThrow()
                .connection();
        store.get(SourceSettings.class)
                .counting(connection, random.nextBoolean() ? List.of() : List.of(place.source()));
        fromTheBeginning.add(place);
    }

    /** A person's calendar ceases to be captured, or is again. */
    private void calendar() {
        scene.state(empty, random.nextBoolean() ? "disconnected" : "capturing");
        store.get(SourceSettings.class).calendarChanged(empty.person());
    }

    /** What the engine does after a change: decide again, then ask the sources for what is wanted. */
    public void settle() {
        scene.settle();
        for (SourceRef place : places) {
            if (fromTheBeginning.remove(place)) {
                sources.get(place.source()).keySet().forEach(position -> take(place, position));
            }
            store.get(Positions.class).toRefetch(place.source(), 1_000).forEach(position -> take(place, position));
        }
        scene.settle();
    }

    public Map<String, Item> fetched(int source, List<String> positions) {
        Map<String, Item> found = new HashMap<>();
        positions.forEach(p -> found.put(p, sources.get(source).get(p).item()));
        return found;
    }

    /** What decides without the database's help, of all that the sources show. */
    List<String> expected() {
        List<String> expected = new ArrayList<>();
        for (SourceRef place : places) {
            Map<String, Shown> shown = sources.get(place.source());
            DirectorySlice slice = store.get(Slices.class)
                    .of(shown.values().stream().map(Shown::item).toList());
            Standings.Standing standing =
                    store.get(Standings.class).of(List.of(place.source())).get(place.source());
            shown.forEach((position, s) -> {
                Decision d =
                        standing == null ? Decider.notCovered() : standing.decide(s.item(), false, s.hand(), slice);
                expected.add(place.source() + " " + position + " " + d.verdict().word() + " "
                        + (d.links().isEmpty() ? "" : Json.write(d.links())) + " " + d.sharing());
            });
        }
        return expected.stream().sorted().toList();
    }

    /** Captures everything anew, under the rules of today. */
    void anew() throws SQLException {
        store.run("TRUNCATE sighting, stranger, activity, body, link, reconsider");
        for (SourceRef place : places) {
            sources.get(place.source()).keySet().forEach(position -> take(place, position));
        }
        settle();
    }
}
