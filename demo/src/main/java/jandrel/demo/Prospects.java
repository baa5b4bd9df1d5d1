package jandrel.demo;

import jandrel.api.MeetingApi.ResultInfo;
import jandrel.demo.Cast.Firm;
import jandrel.demo.Cast.Person;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.jspecify.annotations.Nullable;

/**
 * Accounts that were won, or lost, within half a year: later ones are won after fewer meetings and days, and the trade fair
 * brings people who do not come and do not buy.
 */
final class Prospects {
    /** The company's stages, each with what an open opportunity in it comes to. */
    static final List<String[]> STAGES = List.of(
            new String[] {"first talk", "open"},
            new String[] {"need agreed", "open"},
            new String[] {"quoted", "open"},
            new String[] {"in tender", "open"},
            new String[] {"contract out", "agreed"},
            new String[] {"signed", "agreed"});

    static final List<String> CHANNELS = List.of("recommendation", "trade fair", "website", "tender portal");
    /** What can come of meetings: most of it somebody says, some a title. */
    static final List<ResultInfo> RESULTS = List.of(
            new ResultInfo("offer made", List.of("our offer", "terms")),
            new ResultInfo("meet again", List.of()),
            new ResultInfo("no fit", List.of()));

    private static final String FAIR = CHANNELS.get(1);
    private static final int BACK_DAYS = 175;
    private static final String[] PLACES = {
        "Aldersund",
        "Brevika",
        "Carnmore",
        "Dunvale",
        "Eidshavn",
        "Farrowick",
        "Gullholm",
        "Hestvik",
        "Innerleith",
        "Jarlsund",
        "Kestrelport",
        "Lomvik",
        "Marrowby",
        "Norholm",
        "Ostvik",
        "Penmarrow",
        "Quaymouth",
        "Rostvik",
        "Stensund",
        "Torvale",
        "Ulvsund",
        "Varholm",
        "Westray Bay",
        "Ystholm"
    };
    private static final String[] SORTS = {"Marina", "Ferries"};
    private static final String[] WHO = {"Runa", "Olof", "Thea", "Magnus", "Birgit", "Euan", "Sunniva", "Colm"};
    private static final String[] TITLES = {
        "Introduction", "Demonstration", "Quotation", "Yard visit", "Terms", "Trial run", "Signing"
    };
    private static final DateTimeFormatter DAY = DateTimeFormatter.ISO_LOCAL_DATE;

    /**
     * @param met on which days they met, rising
     * @param closed when it was won or lost; null while it is open
     */
    record Prospect(
            Firm firm,
            String contact,
            String channel,
            int value,
            boolean monthly,
            LocalDate opened,
            List<LocalDate> met,
            boolean firstMissed,
            @Nullable LocalDate closed,
            boolean won) {
        String number() {
            return firm.key().substring(4);
        }

        String address() {
            return Cast.ascii(contact).replace(' ', '.') + "@" + firm.domain();
        }

        String state() {
            return closed == null ? "open" : won ? "won" : "lost";
        }

        String stage() {
            return closed == null ? STAGES.get(Math.min(met.size(), 5) - 1)[0] : "closed";
        }
    }

    private final List<Prospect> all = new ArrayList<>();
    private final LocalDate today;

    Prospects(Cast cast, LocalDate today, long seed) {
        this.today = today;
        SplittableRandom random = new SplittableRandom(seed + 1);
        int count = PLACES.length * SORTS.length;
        for (int n = 0; n < count; n++) {
            String name = PLACES[n % PLACES.length] + " " + SORTS[n / PLACES.length];
            Person owner = cast.people.get(new int[] {1, 2, 3, 4, 6, 7, 8, 9}[n % 8]);
            Firm firm = new Firm(
                    "acc-" + (300 + n),
                    name,
                    List.of(Cast.ascii(name).replace(' ', '-') + ".example"),
                    owner,
                    "prospect",
                    "Europe/Oslo");
            String channel = CHANNELS.get((n + n / 4) % CHANNELS.size());
            boolean fair = channel.equals(FAIR);
            int begins = -BACK_DAYS + n * (BACK_DAYS - 8) / count;
            // selling gets better: the later it begins, the sooner it is over
            int lasts = 88 - n * 6 / 5 + random.nextInt(9);
            int times = 7 - n * 4 / count + random.nextInt(2) - (fair ? 1 : 0);
            boolean won = fair ? n % 5 == 0 : n % 6 != 5;
            LocalDate opened = workday(begins);
            LocalDate closed = workday(begins + lasts);
            List<LocalDate> met = new ArrayList<>();
            for (int i = 0; i < times; i++) {
                LocalDate day = workday(begins + i * (lasts - 2) / Math.max(1, times - 1));
                if (day.isBefore(today.plusDays(14))) {
                    met.add(day);
                }
            }
            all.add(new Prospect(
                    firm,
                    WHO[n % WHO.length] + " "
                            + PLACES[(n * 5 + 3 + n / PLACES.length) % PLACES.length].replace(" Bay", ""),
                    channel,
                    n % 5 == 4 ? 400 + 50 * random.nextInt(12) : 6_000 + 500 * random.nextInt(60),
                    n % 5 == 4,
                    opened,
                    met,
                    fair ? n % 3 != 2 : n % 11 == 3,
                    closed.isBefore(today) ? closed : null,
                    won));
        }
    }

    private LocalDate workday(int daysFromToday) {
        LocalDate day = today.plusDays(daysFromToday);
        return day.getDayOfWeek() == DayOfWeek.SUNDAY
                ? day.minusDays(2)
                : day.getDayOfWeek() == DayOfWeek.SATURDAY ? day.minusDays(1) : day;
    }

    /** Rows for the directory's files, by file, cells in the order of {@link Tables}. */
    Map<String, List<List<String>>> rows() {
        Map<String, List<List<String>>> rows = new LinkedHashMap<>();
        rows.put(
                "accounts",
                all.stream()
                        .map(p -> List.of(
                                p.firm().key(),
                                p.firm().name(),
                                String.join(" ", p.firm().domains()),
                                p.firm().owner().key()))
                        .toList());
        rows.put(
                "contacts",
                all.stream()
                        .map(p -> List.of(
                                "con-3" + p.number(),
                                p.contact(),
                                p.address(),
                                "",
                                p.firm().key(),
                                "Harbour master",
                                ""))
                        .toList());
        rows.put(
                "opportunities",
                all.stream()
                        .map(p -> List.of(
                                key(p),
                                p.firm().name() + ", berth sensors",
                                p.firm().key(),
                                p.stage(),
                                p.state(),
                                String.valueOf(p.value()),
                                "EUR",
                                p.monthly() ? "month" : "once",
                                p.channel(),
                                p.firm().owner().key()))
                        .toList());
        return rows;
    }

    private static String key(Prospect p) {
        return "opp-" + p.number();
    }

    /** How these opportunities, and those of the cast, came to where they are: rows of their history’s file. */
    List<List<String>> history(Cast cast) {
        List<List<String>> lines = new ArrayList<>();
        for (Prospect p : all) {
            String owner = p.firm().owner().key();
            lines.add(line(key(p), p.opened(), STAGES.get(0)[0], "open", p, owner));
            for (int i = 1; i < Math.min(p.met().size(), 5); i++) {
                LocalDate day = p.met().get(i);
                boolean later = day.isAfter(p.opened()) && day.isAfter(p.met().get(i - 1));
                if (day.isBefore(today) && later && (p.closed() == null || day.isBefore(p.closed()))) {
                    lines.add(line(key(p), day, STAGES.get(i)[0], "open", p, owner));
                }
            }
            if (p.closed() != null) {
                lines.add(line(key(p), p.closed(), "closed", p.state(), p, owner));
            }
        }
        int n = 0;
        for (Cast.Deal deal : cast.deals) {
            long over = 20 + n * 7L % 100;
            boolean open = deal.state().equals("open");
            LocalDate opened = today.minusDays(open ? 130 + n * 3L % 70 : over + 45 + over / 2);
            lines.add(List.of(
                    deal.key(),
                    DAY.format(opened),
                    "first talk",
                    "open",
                    String.valueOf(deal.value()),
                    "EUR",
                    "once",
                    channel(deal),
                    deal.owner().key()));
            if (!open) {
                lines.add(List.of(
                        deal.key(),
                        DAY.format(today.minusDays(over)),
                        "closed",
                        deal.state(),
                        String.valueOf(deal.value()),
                        "EUR",
                        "once",
                        channel(deal),
                        deal.owner().key()));
            }
            n++;
        }
        return lines;
    }

    /** Those of the cast come from anywhere but the fair. */
    static String channel(Cast.Deal deal) {
        int n = Integer.parseInt(deal.key().substring(4)) % 4;
        return CHANNELS.get(n == 1 ? 3 : n);
    }

    private static List<String> line(String key, LocalDate day, String stage, String state, Prospect p, String owner) {
        return List.of(
                key,
                DAY.format(day),
                stage,
                state,
                String.valueOf(p.value()),
                "EUR",
                p.monthly() ? "month" : "once",
                p.channel(),
                owner);
    }

    /** A meeting of the story. */
    record Visit(String title, LocalDateTime at, Person owner, String guest, String zone) {}

    List<Visit> visits() {
        List<Visit> visits = new ArrayList<>();
        for (Prospect p : all) {
            String guest = p.contact() + " <" + p.address() + ">";
            for (int i = 0; i < p.met().size(); i++) {
                String title =
                        TITLES[Math.min(i, TITLES.length - 1)] + ", " + p.firm().name();
                LocalDateTime at = p.met().get(i).atTime(9 + (i * 3 + p.met().size()) % 7, 0);
                boolean missed = i == 0 && p.firstMissed() && p.met().get(0).isBefore(today);
                if (missed) {
                    visits.add(new Visit(
                            "No-show: " + title,
                            at.minusHours(1),
                            p.firm().owner(),
                            guest,
                            p.firm().zone()));
                    at = at.plusHours(4);
                }
                visits.add(
                        new Visit(title, at, p.firm().owner(), guest, p.firm().zone()));
            }
        }
        return visits;
    }
}
