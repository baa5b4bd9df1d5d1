package jandrel.demo;

import jandrel.demo.Cast.Customer;
import jandrel.demo.Cast.Firm;
import jandrel.demo.Cast.Person;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.SplittableRandom;
import java.util.stream.Collectors;

/** All mail of the story. */
final class Letters {
    private static final String[][] TOPICS = {
        {
            "Mooring chain for the outer buoys",
            "the 38 mm chain on the outer buoys shows more wear than the drawing allows"
        },
        {
            "Tide sensor drift at the lock gate",
            "the gauge at the lock gate reads four centimetres high against the staff"
        },
        {"Lantern replacement before winter", "two lanterns on the approach flash out of rhythm after the storm"},
        {"Delivery slot for the survey buoys", "our crane is free on the quay in the third week, mornings only"},
        {"Quote for twelve sensors", "we would like twelve of the pressure sensors with the short cable"},
        {"Drawings for the anchor frame", "the yard asks for the drawings of the anchor frame with the new shackle"},
        {"Telemetry gaps at night", "the buoys go quiet between two and four, mostly at low water"},
        {"Commissioning report", "the report still lacks the readings of the last two days"},
        {"Antifouling for the pen buoys", "growth on the pen buoys comes back within six weeks"},
        {"Battery life in the cold", "at minus ten the batteries give us nine days instead of fourteen"},
        {"Tender for the north channel", "the tender papers came out this morning and the questions close on Friday"},
        {"Training for the night shift", "four people of the night shift have never opened a sensor housing"},
        {"Invoice and delivery note differ", "the delivery note says eighteen shackles and the invoice twenty"},
        {"Site visit at the new pier", "the new pier is ready to be looked at, boots and helmets are here"},
        {"Wave sensor trial results", "the trial gives us cleaner spectra than the old waverider line"}
    };
    private static final String[] ASKS = {
        "Could you tell us what you would do?", "Would a call this week help?",
                "Please send us what you need to go on.",
        "What would it cost us, roughly?", "Can this wait until the spring tide has passed?",
                "Who of your people should we speak to?"
    };
    private static final String[] ANSWERS = {
        "Thank you for the pictures, they make it clear.", "I have asked our workshop and they see it as you do.",
        "We had the same at another harbour last autumn.", "I can bring the part along when I am with you next.",
        "The figures are attached; the second page is the one that counts.", "Let us keep to the date we spoke of."
    };
    private static final String[] MORE = {
        "The tide table for your quay is in the usual folder.", "We would rather do it once and properly.",
        "Our diver has looked at it and found nothing loose.", "If the weather holds, the boat can go out on Tuesday.",
        "The harbour office has given its word already.", "Please keep the serial numbers for the log.",
        "The spare one is still on its pallet behind the shed.",
                "It is not urgent, but I would not leave it until January."
    };
    private static final String[] STRANGERS = {
        "Rafael Monteiro <rafael@ondaverde.example>",
        "Kirsten Lauge <kl@lauge-marine.example>",
        "Tomasz Wilk <wilk@portowiec.example>",
        "Bea Harlan <bea.harlan@fjordpost.example>",
        "Sven Aho <sven.aho@saaristo.example>",
        "Mona Whitby <mona@whitby-slipway.example>",
        "Dr Ebba Grip <e.grip@uni-kattegat.example>"
    };

    private final Cast cast;
    private final LocalDate today;
    private final SplittableRandom random;
    private final List<Letter> letters = new ArrayList<>();
    private int number;

    Letters(Cast cast, LocalDate today, long seed) {
        this.cast = cast;
        this.today = today;
        this.random = new SplittableRandom(seed);
    }

    List<Letter> all() {
        for (int i = 0; i < 425; i++) {
            Firm firm = cast.firms.get(i % cast.firms.size());
            List<Customer> customers = cast.at(firm);
            conversation(firm.owner(), customers.get(random.nextInt(customers.size())), i);
        }
        skarvik();
        inside();
        newsletter();
        mailingList();
        outOfOffice();
        supplier();
        strangers();
        sharedOffice();
        oddities();
        printShop();
        return letters;
    }

    private Instant moment(int daysAgo) {
        LocalDate day = today.minusDays(daysAgo);
        LocalDate workday = day.getDayOfWeek() == DayOfWeek.SUNDAY
                ? day.minusDays(2)
                : day.getDayOfWeek() == DayOfWeek.SATURDAY ? day.minusDays(1) : day;
        return workday.atTime(7 + random.nextInt(10), random.nextInt(60), random.nextInt(60))
                .toInstant(ZoneOffset.UTC);
    }

    private String id(String domain) {
        return "m" + (++number) + "." + Long.toString(random.nextLong() >>> 20, 36) + "@" + domain;
    }

    private String pick(String[] from) {
        return from[random.nextInt(from.length)];
    }

    /** To and fro between one of ours and one of theirs; a colleague is copied in now and then. */
    private void conversation(Person ours, Customer theirs, int n) {
        String[] topic = TOPICS[random.nextInt(TOPICS.length)];
        int length = 2 + random.nextInt(6);
        Instant at = moment(3 + random.nextInt(116));
        String first = "";
        String last = "";
        String said = "";
        boolean theyBegin = random.nextInt(3) > 0;
        Person copied = n % 4 == 0 ? cast.people.get(ours.team().equals("Atlantic") ? 0 : 5) : ours;
        for (int i = 0; i < length && at.isBefore(today.atStartOfDay().toInstant(ZoneOffset.UTC)); i++) {
            boolean fromThem = (i % 2 == 0) == theyBegin;
            String theirAddress = theirs.addresses().size() > 1 && i % 4 == 2
                    ? theirs.addresses().get(1)
                    : theirs.address();
            String them = theirs.name() + " <" + theirAddress + ">";
            String id = id(fromThem ? theirs.firm().domain() : Cast.OWN);
            String subject = (i == 0 ? "" : "Re: ") + topic[0];
            String greeting = "Hello " + (fromThem ? ours.name() : theirs.name()).split(" ")[0];
            String text = greeting + ",\n\n" + body(topic, i) + "\n\nKind regards\n"
                    + (fromThem
                            ? theirs.name() + "\n" + theirs.title() + ", "
                                    + theirs.firm().name()
                            : ours.name() + "\nCorvane");
            Letter letter = new Letter(
                    id, at, fromThem ? them : ours.mailbox(), fromThem ? ours.mailbox() : them, subject, text + said);
            thread(letter, first, last);
            said = quoted(at, fromThem ? them : ours.mailbox(), text + said);
            if (fromThem) {
                letter.in(ours.address());
            } else {
                letter.sent(ours.address());
            }
            if (copied != ours) {
                letter.cc(copied.mailbox()).in(copied.address());
            }
            if (random.nextInt(5) == 0) {
                letter.html("<html><head><style>p{margin:0}</style></head><body><p>"
                        + text.replace("\n\n", "</p><p>").replace("\n", "<br>")
                        + "</p><img src=\"https://track.example/p.gif\"></body></html>");
            }
            if (random.nextInt(9) == 0) {
                letter.attached(topic[0].toLowerCase(java.util.Locale.ROOT).replace(' ', '-') + ".pdf");
            }
            letters.add(letter);
            first = first.isEmpty() ? id : first;
            last = id;
            at = at.plus(Duration.ofMinutes(40 + random.nextInt(2_600)));
        }
    }

    /** As mail programs put what they answer below the answer. */
    private static String quoted(Instant at, String who, String text) {
        return "\n\nOn " + at.atOffset(ZoneOffset.UTC).toLocalDate() + ", " + who + " wrote:\n\n"
                + text.lines()
                        .map(line -> line.startsWith(">") ? ">" + line : "> " + line)
                        .collect(Collectors.joining("\n"));
    }

    private static void thread(Letter letter, String first, String last) {
        if (!last.isEmpty()) {
            letter.header("In-Reply-To", "<" + last + ">")
                    .header("References", "<" + first + ">" + (first.equals(last) ? "" : " <" + last + ">"));
        }
    }

    private String body(String[] topic, int i) {
        String middle = pick(MORE) + " " + pick(MORE);
        return i == 0
                ? "A word about something on our quay: " + topic[1] + ". " + middle + "\n\n" + pick(ASKS)
                : pick(ANSWERS) + " " + middle + (random.nextInt(3) == 0 ? "\n\n" + pick(ASKS) : "");
    }

    /** The deal that closes after three meetings. */
    private void skarvik() {
        Person ours = cast.firms.get(0).owner();
        Customer master = cast.customers.stream()
                .filter(c -> c.key().equals("con-2001"))
                .findFirst()
                .orElseThrow();
        Customer finance = cast.customers.stream()
                .filter(c -> c.key().equals("con-2002"))
                .findFirst()
                .orElseThrow();
        String[][] steps = {
            {
                "74",
                "t",
                "Inner channel buoys",
                "We are to replace all nine buoys of the inner channel before the ice, and your name came up. Could you come and look?"
            },
            {
                "73",
                "o",
                "Re: Inner channel buoys",
                "Gladly. I can be with you on Thursday and will bring the drawings of the new body."
            },
            {
                "60",
                "o",
                "Quote: inner channel buoys",
                "As promised, nine buoys with lanterns and chain, laid by our boat. The quote is attached and holds for six weeks."
            },
            {
                "52",
                "t",
                "Re: Quote: inner channel buoys",
                "The board likes it. They ask whether the chain can be the heavier one at the bend. Can we meet once more?"
            },
            {
                "41",
                "o",
                "Re: Quote: inner channel buoys",
                "The heavier chain is in now. The price goes up by 2,300 and nothing else changes."
            },
            {
                "33",
                "f",
                "Order 4471, inner channel buoys",
                "Please find our order. Invoices to me, not to my namesake at the harbour office: we get each other's post as it is."
            },
            {
                "32",
                "o",
                "Re: Order 4471, inner channel buoys",
                "Thank you, with great pleasure. The first four buoys leave our yard in two weeks."
            }
        };
        String last = "";
        String first = "";
        for (String[] s : steps) {
            Customer them = s[1].equals("f") ? finance : master;
            boolean fromUs = s[1].equals("o");
            String id = id(fromUs ? Cast.OWN : them.firm().domain());
            Letter letter = new Letter(
                    id,
                    moment(Integer.parseInt(s[0])),
                    fromUs ? ours.mailbox() : them.mailbox(),
                    fromUs ? (s[2].contains("Order") ? finance : master).mailbox() : ours.mailbox(),
                    s[2],
                    "Hello,\n\n" + s[3] + "\n\nKind regards\n" + (fromUs ? ours.name() : them.name()));
            thread(letter, first, last);
            letters.add(
                    fromUs
                            ? letter.sent(ours.address()).attached("inner-channel-buoys.pdf")
                            : letter.in(ours.address()));
            first = first.isEmpty() ? id : first;
            last = id;
        }
    }

    private void inside() {
        String[] subjects = {
            "Van keys",
            "Stock of lanterns",
            "Who takes Friday's call?",
            "Canteen closes early",
            "Price list, last look",
            "Holidays in the yard"
        };
        for (int i = 0; i < 120; i++) {
            Person from = cast.people.get(random.nextInt(cast.people.size()));
            Person to = cast.people.get(random.nextInt(cast.people.size()));
            if (from != to) {
                letters.add(new Letter(
                                id(Cast.OWN),
                                moment(1 + random.nextInt(118)),
                                from.mailbox(),
                                to.mailbox(),
                                pick(subjects),
                                pick(MORE) + "\n\n" + from.name().split(" ")[0])
                        .sent(from.address())
                        .in(to.address()));
            }
        }
    }

    private void newsletter() {
        for (int week = 0; week < 16; week++) {
            Letter letter = new Letter(
                            id("harbour-gazette.example"),
                            moment(2 + 7 * week),
                            "The Harbour Gazette <news@harbour-gazette.example>",
                            "subscribers@harbour-gazette.example",
                            "The Harbour Gazette, issue " + (412 - week),
                            "Dredging prices, a lighthouse for sale, and the tide of the year.")
                    .header("List-Unsubscribe", "<https://harbour-gazette.example/leave>")
                    .header("Precedence", "bulk");
            cast.people.stream().filter(p -> p.name().length() % 2 == 0).forEach(p -> letter.in(p.address()));
            letters.add(letter);
        }
    }

    private void mailingList() {
        for (int i = 0; i < 26; i++) {
            Customer author = cast.customers.get((i * 11) % cast.customers.size());
            letters.add(new Letter(
                            id(author.firm().domain()),
                            moment(2 + random.nextInt(115)),
                            author.mailbox(),
                            "hydro-talk@lists.soundings.example",
                            "[hydro-talk] " + TOPICS[i % TOPICS.length][0],
                            pick(MORE) + " " + pick(MORE))
                    .header("List-Id", "<hydro-talk.lists.soundings.example>")
                    .header("List-Post", "<mailto:hydro-talk@lists.soundings.example>")
                    .in(cast.people.get(1).address())
                    .in(cast.people.get(6).address())
                    .in(cast.people.get(8).address()));
        }
    }

    private void outOfOffice() {
        for (int i = 0; i < 24; i++) {
            Customer who = cast.customers.get((i * 13) % cast.customers.size());
            Person to = who.firm().owner();
            letters.add(new Letter(
                            id(who.firm().domain()),
                            moment(2 + random.nextInt(115)),
                            who.mailbox(),
                            to.mailbox(),
                            "Away until Monday",
                            "I am away. In urgent cases call the harbour office.")
                    .header("Auto-Submitted", "auto-replied")
                    .in(to.address()));
        }
        letters.add(new Letter(
                        id("port-skarvik.example"),
                        moment(20),
                        "Mail Delivery System <MAILER-DAEMON@port-skarvik.example>",
                        cast.people.get(1).mailbox(),
                        "Undelivered Mail Returned to Sender",
                        "--b\r\n\r\nThe mailbox is full.\r\n--b--")
                .header("Return-Path", "<>")
                .header("Content-Type", "multipart/report; report-type=delivery-status; boundary=b")
                .in(cast.people.get(1).address()));
    }

    private void supplier() {
        for (int i = 0; i < 48; i++) {
            Person ours = cast.people.get(1 + i % 9);
            String them = (i % 2 == 0
                    ? "Wim Ketting <wim@kettingwerk.example>"
                    : "Orders <orders@sales.kettingwerk.example>");
            boolean fromUs = i % 3 == 2;
            Letter letter = new Letter(
                    id(fromUs ? Cast.OWN : "kettingwerk.example"),
                    moment(2 + random.nextInt(116)),
                    fromUs ? ours.mailbox() : them,
                    fromUs ? them : ours.mailbox(),
                    "Chain order " + (8_800 + i),
                    "The lengths as agreed; two drums leave our works on Wednesday.");
            letters.add(fromUs ? letter.sent(ours.address()) : letter.in(ours.address()));
        }
    }

    private void strangers() {
        for (int i = 0; i < 60; i++) {
            Person ours = cast.people.get(1 + (i * 3) % 9);
            String them = STRANGERS[(i * i) % STRANGERS.length];
            boolean fromUs = i % 4 == 3;
            Letter letter = new Letter(
                    id(fromUs ? Cast.OWN : "elsewhere.example"),
                    moment(2 + random.nextInt(116)),
                    fromUs ? ours.mailbox() : them,
                    fromUs ? them : ours.mailbox(),
                    TOPICS[i % TOPICS.length][0],
                    "Hello,\n\n" + pick(MORE) + "\n\n" + pick(ASKS));
            letters.add(fromUs ? letter.sent(ours.address()) : letter.in(ours.address()));
        }
        // nobody's known address, but a known account's domain
        Firm firm = cast.firms.get(6);
        for (int i = 0; i < 14; i++) {
            letters.add(new Letter(
                            id(firm.domain()),
                            moment(2 + random.nextInt(116)),
                            "Gate Office <gate@quay." + firm.domain() + ">",
                            firm.owner().mailbox(),
                            "Gate pass " + (310 + i),
                            "The pass is at the gate. " + pick(MORE))
                    .in(firm.owner().address()));
        }
    }

    /** Writes to everybody, and nobody ever writes back. */
    private void printShop() {
        for (int i = 0; i < 22; i++) {
            Person ours = cast.people.get(1 + i % 7);
            letters.add(new Letter(
                            id("frostprint.example"),
                            moment(2 + random.nextInt(116)),
                            "Ida Frost <ida@frostprint.example>",
                            ours.mailbox(),
                            "Stickers for hulls, batch " + (40 + i),
                            "We print on anything that floats. Shall I send samples?")
                    .in(ours.address()));
        }
    }

    private void sharedOffice() {
        for (int i = 0; i < 10; i++) {
            Person ours = cast.firms.get(i % 2 == 0 ? 20 : 21).owner();
            letters.add(new Letter(
                            id("havnelag.example"),
                            moment(4 + 9 * i),
                            "Havnelag Office <office@havnelag.example>",
                            ours.mailbox(),
                            "From the shared office: " + TOPICS[i][0],
                            "Hello,\n\n" + pick(MORE) + " " + pick(ASKS) + "\n\nKvist")
                    .in(ours.address()));
        }
    }

    private void oddities() {
        Person ours = cast.people.get(2);
        Customer them = cast.at(cast.firms.get(1)).get(0);
        letters.add(new Letter("broken", moment(15), "x", "y", "z", "")
                .raw("\u0000\u0001\u00ff\u00fe broken beyond repair \u0000\u0000 no header, no people\r\n\r\n")
                .in(ours.address()));
        letters.add(new Letter(
                        "no-date@tarnholm-harbour.example",
                        moment(17),
                        them.mailbox(),
                        ours.mailbox(),
                        "Sent by the old scanner",
                        "The chart is attached.")
                .header("Date", "yesterday noon")
                .attached("chart.pdf")
                .in(ours.address()));
        letters.add(new Letter(
                        "charset@tarnholm-harbour.example",
                        moment(16),
                        them.mailbox(),
                        ours.mailbox(),
                        "Gr\u00fc\u00dfe vom Kai",
                        "A charset nobody knows.")
                .header("Content-Type", "text/plain; charset=x-harbour-9")
                .in(ours.address()));
    }
}
