package jandrel.demo;

import jandrel.demo.Cast.Customer;
import jandrel.demo.Cast.Firm;
import jandrel.demo.Cast.Person;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/** All mail of the story: what our people and their customers write to each other, and all else that comes in. */
final class Letters {
    private static final String[] ANSWERS = {
        "Thank you for the pictures, they make it clear.", "I have asked our workshop and they see it as you do.",
        "We had the same at another harbour last autumn.", "I can bring the part along when I am with you next.",
        "The figures are attached; the second page is the one that counts.", "Let us keep to the date we spoke of."
    };

    private final Cast cast;
    private final Pen pen;
    private final List<Letter> letters = new ArrayList<>();

    Letters(Cast cast, LocalDate today, long seed) {
        this.cast = cast;
        this.pen = new Pen(today, seed);
    }

    List<Letter> all() {
        for (int i = 0; i < 425; i++) {
            Firm firm = cast.firms.get(i % cast.firms.size());
            List<Customer> customers = cast.at(firm);
            conversation(firm.owner(), customers.get(pen.random.nextInt(customers.size())), i);
        }
        skarvik();
        letters.addAll(new Sundries(cast, pen).all());
        return letters;
    }

    /** To and fro between one of ours and one of theirs; a colleague is copied in now and then. */
    private void conversation(Person ours, Customer theirs, int n) {
        String[] topic = Pen.TOPICS[pen.random.nextInt(Pen.TOPICS.length)];
        int length = 2 + pen.random.nextInt(6);
        Instant at = pen.moment(3 + pen.random.nextInt(116));
        String first = "";
        String last = "";
        String said = "";
        boolean theyBegin = pen.random.nextInt(3) > 0;
        Person copied = n % 4 == 0 ? cast.people.get(ours.team().equals("Atlantic") ? 0 : 5) : ours;
        for (int i = 0; i < length && at.isBefore(pen.today.atStartOfDay().toInstant(ZoneOffset.UTC)); i++) {
            boolean fromThem = (i % 2 == 0) == theyBegin;
            String theirAddress = theirs.addresses().size() > 1 && i % 4 == 2
                    ? theirs.addresses().get(1)
                    : theirs.address();
            String them = theirs.name() + " <" + theirAddress + ">";
            String id = pen.id(fromThem ? theirs.firm().domain() : Cast.OWN);
            String subject = (i == 0 ? "" : "Re: ") + topic[0];
            String greeting = "Hello " + (fromThem ? ours.name() : theirs.name()).split(" ", 0)[0];
            String text = greeting + ",\n\n" + body(topic, i) + "\n\nKind regards\n"
                    + (fromThem
                            ? theirs.name() + "\n" + theirs.title() + ", "
                                    + theirs.firm().name() + "\n" + theirs.phone()
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
            if (!copied.equals(ours)) {
                letter.cc(copied.mailbox()).in(copied.address());
            }
            if (pen.random.nextInt(5) == 0) {
                letter.html("<html><head><style>p{margin:0}</style></head><body><p>"
                        + text.replace("\n\n", "</p><p>").replace("\n", "<br>")
                        + "</p><img src=\"https://track.example/p.gif\"></body></html>");
            }
            if (pen.random.nextInt(9) == 0) {
                letter.attached(topic[0].toLowerCase(java.util.Locale.ROOT).replace(' ', '-') + ".pdf");
            }
            letters.add(letter);
            first = first.isEmpty() ? id : first;
            last = id;
            at = at.plus(Duration.ofMinutes(40 + pen.random.nextInt(2_600)));
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
        String middle = pen.pick(Pen.MORE) + " " + pen.pick(Pen.MORE);
        return i == 0
                ? "A word about something on our quay: " + topic[1] + ". " + middle + "\n\n" + pen.pick(Pen.ASKS)
                : pen.pick(ANSWERS) + " " + middle + (pen.random.nextInt(3) == 0 ? "\n\n" + pen.pick(Pen.ASKS) : "");
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
            String id = pen.id(fromUs ? Cast.OWN : them.firm().domain());
            Letter letter = new Letter(
                    id,
                    pen.moment(Integer.parseInt(s[0])),
                    fromUs ? ours.mailbox() : them.mailbox(),
                    fromUs ? (s[2].contains("Order") ? finance : master).mailbox() : ours.mailbox(),
                    s[2],
                    "Hello,\n\n" + s[3] + "\n\nKind regards\n"
                            + (fromUs ? ours.name() : them.name() + "\n" + them.phone()));
            thread(letter, first, last);
            letters.add(
                    fromUs
                            ? letter.sent(ours.address()).attached("inner-channel-buoys.pdf")
                            : letter.in(ours.address()));
            first = first.isEmpty() ? id : first;
            last = id;
        }
    }
}
