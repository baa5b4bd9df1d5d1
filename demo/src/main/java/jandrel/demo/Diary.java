package jandrel.demo;

import jandrel.demo.Cast.Customer;
import jandrel.demo.Cast.Firm;
import jandrel.demo.Cast.Person;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;

/** All meetings of the story, a calendar a person (RFC 5545). */
final class Diary {
    private static final DateTimeFormatter LOCAL = DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss");
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("uuuuMMdd");
    private static final String[] KINDS = {
        "Site visit",
        "Quote walk-through",
        "Sensor review",
        "Winter planning",
        "Commissioning",
        "Call about moorings",
        "Buoy inspection",
        "Kick-off",
        "Tender questions",
        "Telemetry demo"
    };
    private static final String[] PLACES = {
        "Harbour office", "Pier 3", "Their boardroom", "Our yard, hall 2", "On board the survey boat", ""
    };

    private final Cast cast;
    private final Prospects prospects;
    private final LocalDate today;
    private final SplittableRandom random;
    private final Map<String, List<String>> calendars = new LinkedHashMap<>();
    private int number;

    Diary(Cast cast, Prospects prospects, LocalDate today, long seed) {
        this.prospects = prospects;
        this.cast = cast;
        this.today = today;
        this.random = new SplittableRandom(seed);
    }

    /** By address: a whole VCALENDAR. */
    Map<String, String> calendars() {
        cast.people.forEach(p -> calendars.put(p.address(), new ArrayList<>()));
        for (int i = 0; i < 300; i++) {
            single(cast.firms.get(i % cast.firms.size()), i);
        }
        skarvik();
        for (int i = 0; i < 14; i++) {
            customerSeries(cast.firms.get((i * 3 + 1) % cast.firms.size()), i);
        }
        standUps();
        ownDays();
        privateOnes();
        prospects
                .visits()
                .forEach(v -> put(
                        people(from(event(uid(), v.title()), v.at(), 60, v.zone()), v.owner(), List.of(v.guest()))
                                .end(),
                        v.owner()));
        Map<String, String> whole = new LinkedHashMap<>();
        calendars.forEach((address, events) -> whole.put(
                address,
                "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Corvane//made up//EN\r\n" + zones()
                        + String.join("", events) + "END:VCALENDAR\r\n"));
        return whole;
    }

    private static String zones() {
        return zone("Europe/Oslo", "+0100", "+0200", false)
                + zone("Europe/Copenhagen", "+0100", "+0200", false)
                + zone("Europe/London", "+0000", "+0100", false)
                + zone("Europe/Lisbon", "+0000", "+0100", false)
                + zone("Europe/Helsinki", "+0200", "+0300", false)
                + zone("America/Halifax", "-0400", "-0300", true);
    }

    private static String zone(String id, String winter, String summer, boolean american) {
        String[] on = american
                ? new String[] {"20070311T020000", "3;BYDAY=2SU"}
                : new String[] {"19960331T" + hour(winter) + "0000", "3;BYDAY=-1SU"};
        String[] off = american
                ? new String[] {"20071104T020000", "11;BYDAY=1SU"}
                : new String[] {"19961027T" + hour(summer) + "0000", "10;BYDAY=-1SU"};
        return "BEGIN:VTIMEZONE\r\nTZID:" + id + "\r\nBEGIN:DAYLIGHT\r\nTZOFFSETFROM:" + winter + "\r\nTZOFFSETTO:"
                + summer + "\r\nDTSTART:" + on[0]
                + "\r\nRRULE:FREQ=YEARLY;BYMONTH=" + on[1] + "\r\nEND:DAYLIGHT\r\nBEGIN:STANDARD\r\nTZOFFSETFROM:"
                + summer + "\r\nTZOFFSETTO:" + winter
                + "\r\nDTSTART:" + off[0] + "\r\nRRULE:FREQ=YEARLY;BYMONTH=" + off[1]
                + "\r\nEND:STANDARD\r\nEND:VTIMEZONE\r\n";
    }

    /** In the European Union clocks change at one o'clock UTC everywhere: the local hour is one more than the offset. */
    private static String hour(String offset) {
        return "0" + (1 + Integer.parseInt(offset.substring(1, 3)));
    }

    private LocalDate workday(int daysFromToday) {
        LocalDate day = today.plusDays(daysFromToday);
        return day.getDayOfWeek() == DayOfWeek.SUNDAY
                ? day.minusDays(2)
                : day.getDayOfWeek() == DayOfWeek.SATURDAY ? day.minusDays(1) : day;
    }

    private static final class Event {
        private final StringBuilder lines = new StringBuilder("BEGIN:VEVENT\r\n");

        Event line(String line) {
            // RFC 5545 §3.1: lines are folded before the 75th octet
            String rest = line;
            while (rest.length() > 70) {
                lines.append(rest, 0, 70).append("\r\n ");
                rest = rest.substring(70);
            }
            lines.append(rest).append("\r\n");
            return this;
        }

        String end() {
            return lines + "END:VEVENT\r\n";
        }
    }

    private Event event(String uid, String title) {
        return new Event()
                .line("UID:" + uid)
                .line("DTSTAMP:" + LOCAL.format(today.minusDays(121).atTime(8, 0)) + "Z")
                .line("SUMMARY:" + title.replace(",", "\\,"));
    }

    private static Event people(Event event, Person organiser, List<String> mailboxes) {
        event.line("ORGANIZER;CN=\"" + organiser.name() + "\":mailto:" + organiser.address());
        event.line("ATTENDEE;CN=\"" + organiser.name() + "\";PARTSTAT=ACCEPTED:mailto:" + organiser.address());
        for (String mailbox : mailboxes) {
            int cut = mailbox.indexOf(" <");
            String answer = mailbox.hashCode() % 7 == 0 ? "TENTATIVE" : "ACCEPTED";
            event.line("ATTENDEE;CN=\"" + mailbox.substring(0, cut) + "\";PARTSTAT=" + answer + ":mailto:"
                    + mailbox.substring(cut + 2, mailbox.length() - 1));
        }
        return event;
    }

    private static Event from(Event event, LocalDateTime start, int minutes, String zone) {
        return event.line("DTSTART;TZID=" + zone + ":" + LOCAL.format(start))
                .line("DTEND;TZID=" + zone + ":" + LOCAL.format(start.plusMinutes(minutes)));
    }

    private String uid() {
        return "meet-" + ++number + "-" + Long.toString(random.nextLong() >>> 24, 36) + "@" + Cast.OWN;
    }

    private void put(String event, Person... whose) {
        for (Person p : new LinkedHashSet<>(List.of(whose))) {
            calendars.computeIfAbsent(p.address(), a -> new ArrayList<>()).add(event);
        }
    }

    private Person lead(Person rep) {
        return cast.people.get(rep.team().equals("Atlantic") ? 0 : 5);
    }

    private void single(Firm firm, int n) {
        List<Customer> customers = cast.at(firm);
        Customer first = customers.get(random.nextInt(customers.size()));
        Customer second = customers.get(random.nextInt(customers.size()));
        Person owner = firm.owner();
        boolean withLead = n % 3 == 0;
        List<String> others = new ArrayList<>(List.of(first.mailbox()));
        if (!second.equals(first) && n % 2 == 0) {
            others.add(second.mailbox());
        }
        if (withLead) {
            others.add(lead(owner).mailbox());
        }
        LocalDateTime start = workday(-119 + random.nextInt(148)).atTime(7 + random.nextInt(9), random.nextInt(2) * 30);
        Event event = people(
                from(
                        event(uid(), KINDS[n % KINDS.length] + ", " + firm.name()),
                        start,
                        30 + 30 * random.nextInt(4),
                        firm.zone()),
                owner,
                others);
        String place = PLACES[random.nextInt(PLACES.length)];
        if (place.isEmpty()) {
            event.line("CONFERENCE;VALUE=URI:https://rooms.corvane.example/join/" + n);
        } else {
            event.line("LOCATION:" + place.replace(",", "\\,"));
        }
        event.line("DESCRIPTION:Agenda\\n1. What has changed since last time\\n2. " + KINDS[(n + 3) % KINDS.length]
                + "\\n3. Next steps");
        if (n % 23 == 7) {
            event.line("STATUS:CANCELLED");
        }
        String done = event.end();
        put(done, owner);
        if (withLead) {
            put(done, lead(owner));
        }
    }

    private void skarvik() {
        Firm firm = cast.firms.get(0);
        Customer master = cast.customers.stream()
                .filter(c -> c.key().equals("con-2001"))
                .findFirst()
                .orElseThrow();
        int[] days = {-70, -49, -36};
        String[] titles = {"Inner channel: first look", "Inner channel: the heavier chain", "Inner channel: signing"};
        for (int i = 0; i < 3; i++) {
            put(
                    people(
                                    from(
                                            event(uid(), titles[i] + ", Port of Skarvik"),
                                            workday(days[i]).atTime(10, 0),
                                            90,
                                            "Europe/Oslo"),
                                    firm.owner(),
                                    List.of(master.mailbox()))
                            .line("LOCATION:Harbour office\\, Skarvik")
                            .end(),
                    firm.owner());
        }
    }

    /** Every week or every second one; one occurrence is left out, one is moved, one is called off. */
    private void customerSeries(Firm firm, int n) {
        Customer customer = cast.at(firm).get(0);
        Person owner = firm.owner();
        int step = 1 + n % 2;
        LocalDateTime start = workday(-112 + n).atTime(9 + n % 6, 0);
        String uid = uid();
        String title = (step == 1 ? "Weekly" : "Fortnightly") + " call, " + firm.name();
        ZoneId zone = ZoneId.of(firm.zone());
        LocalDateTime out = start.plusWeeks(2L * step);
        LocalDateTime moved = start.plusWeeks(4L * step);
        LocalDateTime off = start.plusWeeks(5L * step);
        String until = LOCAL.format(today.plusDays(n % 4 == 0 ? 400 : 40)
                        .atTime(23, 0)
                        .atZone(zone)
                        .withZoneSameInstant(ZoneOffset.UTC))
                + "Z";
        String series = people(from(event(uid, title), start, 45, firm.zone()), owner, List.of(customer.mailbox()))
                .line("RRULE:FREQ=WEEKLY;INTERVAL=" + step + (n % 3 == 0 ? "" : ";UNTIL=" + until))
                .line("EXDATE;TZID=" + firm.zone() + ":" + LOCAL.format(out))
                .end();
        series += people(
                        from(event(uid, title + " (moved)"), moved.plusDays(1).plusHours(2), 45, firm.zone()),
                        owner,
                        List.of(customer.mailbox()))
                .line("RECURRENCE-ID;TZID=" + firm.zone() + ":" + LOCAL.format(moved))
                .line("SEQUENCE:1")
                .end();
        series += people(from(event(uid, title), off, 45, firm.zone()), owner, List.of(customer.mailbox()))
                .line("RECURRENCE-ID;TZID=" + firm.zone() + ":" + LOCAL.format(off))
                .line("STATUS:CANCELLED")
                .line("SEQUENCE:1")
                .end();
        put(series, owner, n % 4 == 1 ? lead(owner) : owner);
    }

    private void standUps() {
        for (int lead : new int[] {0, 5}) {
            Person organiser = cast.people.get(lead);
            List<Person> team = cast.people.subList(lead, lead + 5);
            List<String> others = team.stream().skip(1).map(Person::mailbox).toList();
            String event = people(
                            from(
                                    event(uid(), organiser.team() + " round"),
                                    workday(-118).atTime(8, 45),
                                    20,
                                    "Europe/Oslo"),
                            organiser,
                            others)
                    .line("RRULE:FREQ=WEEKLY;BYDAY=MO,WE,FR")
                    .end();
            put(event, team.toArray(Person[]::new));
        }
    }

    private void ownDays() {
        for (int i = 0; i < cast.people.size(); i++) {
            Person p = cast.people.get(i);
            put(
                    event(uid(), "Desk day")
                            .line("DTSTART;VALUE=DATE:" + DAY.format(workday(-20 + i)))
                            .line("DTEND;VALUE=DATE:"
                                    + DAY.format(workday(-20 + i).plusDays(1)))
                            .end(),
                    p);
        }
        Firm firm = cast.firms.get(14);
        put(
                people(
                                event(uid(), "Sea Farming Days, with " + firm.name()),
                                firm.owner(),
                                List.of(cast.at(firm).get(0).mailbox()))
                        .line("DTSTART;VALUE=DATE:" + DAY.format(workday(12)))
                        .line("DTEND;VALUE=DATE:" + DAY.format(workday(12).plusDays(3)))
                        .line("LOCATION:Hall B")
                        .end(),
                firm.owner());
    }

    private void privateOnes() {
        put(
                from(event(uid(), "Doctor"), workday(-6).atTime(16, 15), 40, "Europe/Oslo")
                        .line("CLASS:PRIVATE")
                        .line("LOCATION:Quayside practice")
                        .end(),
                cast.people.get(2));
        Firm firm = cast.firms.get(1);
        put(
                people(
                                from(
                                        event(uid(), "Lunch, between ourselves"),
                                        workday(-9).atTime(12, 0),
                                        75,
                                        firm.zone()),
                                firm.owner(),
                                List.of(cast.at(firm).get(0).mailbox()))
                        .line("CLASS:PRIVATE")
                        .end(),
                firm.owner());
    }
}
