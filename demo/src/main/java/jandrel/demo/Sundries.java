package jandrel.demo;

import jandrel.demo.Cast.Customer;
import jandrel.demo.Cast.Firm;
import jandrel.demo.Cast.Person;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** The mail that is no conversation with a customer: from colleagues, programs, lists and strangers, and what is odd. */
final class Sundries {
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
    private final Pen pen;
    private final List<Letter> letters = new ArrayList<>();

    Sundries(Cast cast, Pen pen) {
        this.cast = cast;
        this.pen = pen;
    }

    List<Letter> all() {
        inside();
        newsletter();
        mailingList();
        outOfOffice();
        supplier();
        strangers();
        sharedOffice();
        oddities();
        printShop();
        colleagues();
        return letters;
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
            Person from = cast.people.get(pen.random.nextInt(cast.people.size()));
            Person to = cast.people.get(pen.random.nextInt(cast.people.size()));
            if (!from.equals(to)) {
                letters.add(new Letter(
                                pen.id(Cast.OWN),
                                pen.moment(1 + pen.random.nextInt(118)),
                                from.mailbox(),
                                to.mailbox(),
                                pen.pick(subjects),
                                pen.pick(Pen.MORE) + "\n\n" + from.name().split(" ", 0)[0])
                        .sent(from.address())
                        .in(to.address()));
            }
        }
    }

    private void newsletter() {
        for (int week = 0; week < 16; week++) {
            Letter letter = new Letter(
                            pen.id("harbour-gazette.example"),
                            pen.moment(2 + 7 * week),
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
                            pen.id(author.firm().domain()),
                            pen.moment(2 + pen.random.nextInt(115)),
                            author.mailbox(),
                            "hydro-talk@lists.soundings.example",
                            "[hydro-talk] " + Pen.TOPICS[i % Pen.TOPICS.length][0],
                            pen.pick(Pen.MORE) + " " + pen.pick(Pen.MORE))
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
                            pen.id(who.firm().domain()),
                            pen.moment(2 + pen.random.nextInt(115)),
                            who.mailbox(),
                            to.mailbox(),
                            "Away until Monday",
                            "I am away. In urgent cases call the harbour office.")
                    .header("Auto-Submitted", "auto-replied")
                    .in(to.address()));
        }
        letters.add(new Letter(
                        pen.id("port-skarvik.example"),
                        pen.moment(20),
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
                    pen.id(fromUs ? Cast.OWN : "kettingwerk.example"),
                    pen.moment(2 + pen.random.nextInt(116)),
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
                    pen.id(fromUs ? Cast.OWN : "elsewhere.example"),
                    pen.moment(2 + pen.random.nextInt(116)),
                    fromUs ? ours.mailbox() : them,
                    fromUs ? them : ours.mailbox(),
                    Pen.TOPICS[i % Pen.TOPICS.length][0],
                    "Hello,\n\n" + pen.pick(Pen.MORE) + "\n\n" + pen.pick(Pen.ASKS));
            letters.add(fromUs ? letter.sent(ours.address()) : letter.in(ours.address()));
        }
        // nobody's known address, but a known account's domain
        Firm firm = cast.firms.get(6);
        for (int i = 0; i < 14; i++) {
            letters.add(new Letter(
                            pen.id(firm.domain()),
                            pen.moment(2 + pen.random.nextInt(116)),
                            "Gate Office <gate@quay." + firm.domain() + ">",
                            firm.owner().mailbox(),
                            "Gate pass " + (310 + i),
                            "The pass is at the gate. " + pen.pick(Pen.MORE))
                    .in(firm.owner().address()));
        }
    }

    /** New people at customers that are on record, and a customer who at times writes from home. */
    private void colleagues() {
        String[] names = {"Aila Strand", "Jonas Brekke", "Petra Hollis", "Mikkel Fjeld", "Signe Aune", "Oskar Thole"};
        for (int i = 0; i < names.length; i++) {
            Firm firm = cast.firms.get(2 + 5 * i);
            String them =
                    names[i] + " <" + names[i].toLowerCase(Locale.ROOT).replace(' ', '.') + "@" + firm.domain() + ">";
            for (int n = 0; n < 2 + i % 3; n++) {
                exchange(them, firm.owner(), firm.domain(), 3 + 4 * n + i, n % 2 == 1, i + n);
            }
        }
        for (int i = 0; i < 3; i++) {
            Customer who = cast.customers.get(9 + 17 * i);
            String home = who.name() + " <"
                    + who.name().toLowerCase(Locale.ROOT).replaceAll("[^a-z]+", "") + "@fjordpost.example>";
            for (int n = 0; n < 3; n++) {
                exchange(home, who.firm().owner(), "fjordpost.example", 2 + 5 * n + i, n == 1, 3 * i + n);
            }
        }
    }

    private void exchange(String them, Person ours, String domain, int daysAgo, boolean fromUs, int topic) {
        Letter letter = new Letter(
                pen.id(fromUs ? Cast.OWN : domain),
                pen.moment(daysAgo),
                fromUs ? ours.mailbox() : them,
                fromUs ? them : ours.mailbox(),
                Pen.TOPICS[topic % Pen.TOPICS.length][0],
                "Hello,\n\n" + pen.pick(Pen.MORE) + " " + pen.pick(Pen.ASKS));
        letters.add(fromUs ? letter.sent(ours.address()) : letter.in(ours.address()));
    }

    /** Writes to everybody, and nobody ever writes back. */
    private void printShop() {
        for (int i = 0; i < 22; i++) {
            Person ours = cast.people.get(1 + i % 7);
            letters.add(new Letter(
                            pen.id("frostprint.example"),
                            pen.moment(2 + pen.random.nextInt(116)),
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
                            pen.id("havnelag.example"),
                            pen.moment(4 + 9 * i),
                            "Havnelag Office <office@havnelag.example>",
                            ours.mailbox(),
                            "From the shared office: " + Pen.TOPICS[i][0],
                            "Hello,\n\n" + pen.pick(Pen.MORE) + " " + pen.pick(Pen.ASKS) + "\n\nKvist")
                    .in(ours.address()));
        }
    }

    private void oddities() {
        Person ours = cast.people.get(2);
        Customer them = cast.at(cast.firms.get(1)).get(0);
        letters.add(new Letter("broken", pen.moment(15), "x", "y", "z", "")
                .raw("\u0000\u0001\u00ff\u00fe broken beyond repair \u0000\u0000 no header, no people\r\n\r\n")
                .in(ours.address()));
        letters.add(new Letter(
                        "no-date@tarnholm-harbour.example",
                        pen.moment(17),
                        them.mailbox(),
                        ours.mailbox(),
                        "Sent by the old scanner",
                        "The chart is attached.")
                .header("Date", "yesterday noon")
                .attached("chart.pdf")
                .in(ours.address()));
        letters.add(new Letter(
                        "charset@tarnholm-harbour.example",
                        pen.moment(16),
                        them.mailbox(),
                        ours.mailbox(),
                        "Gr\u00fc\u00dfe vom Kai",
                        "A charset nobody knows.")
                .header("Content-Type", "text/plain; charset=x-harbour-9")
                .in(ours.address()));
    }
}
