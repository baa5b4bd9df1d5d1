package jandrel.demo;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.SplittableRandom;

/** What letters are made with: turns of phrase, moments of a working day, ids; the same for the same seed. */
final class Pen {
    static final String[][] TOPICS = {
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
    static final String[] ASKS = {
        "Could you tell us what you would do?", "Would a call this week help?",
                "Please send us what you need to go on.",
        "What would it cost us, roughly?", "Can this wait until the spring tide has passed?",
                "Who of your people should we speak to?"
    };
    static final String[] MORE = {
        "The tide table for your quay is in the usual folder.", "We would rather do it once and properly.",
        "Our diver has looked at it and found nothing loose.", "If the weather holds, the boat can go out on Tuesday.",
        "The harbour office has given its word already.", "Please keep the serial numbers for the log.",
        "The spare one is still on its pallet behind the shed.",
                "It is not urgent, but I would not leave it until January."
    };

    final LocalDate today;
    final SplittableRandom random;
    private int number;

    Pen(LocalDate today, long seed) {
        this.today = today;
        this.random = new SplittableRandom(seed);
    }

    Instant moment(int daysAgo) {
        LocalDate day = today.minusDays(daysAgo);
        LocalDate workday = day.getDayOfWeek() == DayOfWeek.SUNDAY
                ? day.minusDays(2)
                : day.getDayOfWeek() == DayOfWeek.SATURDAY ? day.minusDays(1) : day;
        return workday.atTime(7 + random.nextInt(10), random.nextInt(60), random.nextInt(60))
                .toInstant(ZoneOffset.UTC);
    }

    String id(String domain) {
        return "m" + ++number + "." + Long.toString(random.nextLong() >>> 20, 36) + "@" + domain;
    }

    String pick(String[] from) {
        return from[random.nextInt(from.length)];
    }
}
