package jandrel.demo;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;

/** Everybody in the story. */
final class Cast {
    static final String OWN = "corvane.example";
    static final String FREE_MAIL = "fjordpost.example";

    record Person(String key, String name, List<String> addresses, String team, String role) {
        String address() {
            return addresses.get(0);
        }

        String mailbox() {
            return name + " <" + address() + ">";
        }
    }

    record Firm(String key, String name, List<String> domains, Person owner, String sort, String zone) {
        String domain() {
            return domains.get(0);
        }
    }

    record Customer(String key, String name, List<String> addresses, Firm firm, String title) {
        /** In a range that is given to nobody, kept free for stories. */
        String phone() {
            int number = Integer.parseInt(key.substring(4));
            return String.format("+44 1632 960%03d", number < 2_000 ? number - 1_000 : number - 1_800);
        }

        /** What the directory knows; of one it lacks the address they write from at home. */
        List<String> known() {
            return key.equals("con-1017") ? addresses.subList(0, 1) : addresses;
        }

        String address() {
            return addresses.get(0);
        }

        String mailbox() {
            return name + " <" + address() + ">";
        }
    }

    record Deal(String key, String name, Firm firm, String stage, String state, int value, Person owner) {}

    private static final String[][] STAFF = {
        {"Maren Aldous", "Atlantic", "manager"}, {"Tobias Renn", "Atlantic", "rep"}, {"Ysolde Pike", "Atlantic", "rep"},
        {"Callum Brae", "Atlantic", "rep"}, {"Noor Haddix", "Atlantic", "rep"}, {"Henrik Voss", "Baltic", "manager"},
        {"Signe Dahlqvist", "Baltic", "rep"}, {"Pavel Orlik", "Baltic", "rep"}, {"Lotte Marwick", "Baltic", "rep"},
        {"Emeka Sorley", "Baltic", "rep"}
    };
    private static final String[] PORTS = {
        "Port of Skarvik", "Tarnholm Harbour", "Port of Eastmere", "Lundby Havn", "Greyness Port Authority",
                "Port of Vallamar",
        "Saltreach Docks", "Kirkholm Harbour", "Port of Brannoch", "Nordvoe Terminal", "Harwick Quay",
                "Port of Ostrava Bay",
        "Fenmouth Harbour", "Port of Caldera"
    };
    private static final String[] FARMS = {
        "Blåfjord Salmon", "Strandvik Sea Farms", "Hebra Mussels", "Kaldnes Aqua", "Loch Arden Trout",
                "Silverfin Farms",
        "Tidewater Oysters", "Nordlys Havbruk", "Merrow Shellfish", "Skerry Salmon", "Vågen Aquaculture",
                "Ardmore Kelp",
        "Solvang Fisk"
    };
    private static final String[] SURVEYORS = {
        "Deepline Survey",
        "Hydromark",
        "Isobath Partners",
        "Fathom & Lead",
        "Coastal Datum",
        "Blue Meridian Survey",
        "Sounding Works",
        "Tidal Reach Consulting",
        "Ebbline Hydrographic",
        "Seabed Matters",
        "Northern Soundings",
        "Chartwright",
        "Benthic Survey Group"
    };
    private static final String[] FIRST = {
        "Astrid",
        "Bram",
        "Celeste",
        "Dario",
        "Elin",
        "Farah",
        "Gwen",
        "Hugo",
        "Ines",
        "Jonas",
        "Kaja",
        "Leif",
        "Mireille",
        "Nils",
        "Oona",
        "Petra",
        "Quentin",
        "Rasmus",
        "Saskia",
        "Torvald",
        "Una",
        "Viktor",
        "Wanda",
        "Xenia",
        "Yannick",
        "Zora",
        "Aoife",
        "Bastian",
        "Catriona",
        "Desmond",
        "Eira",
        "Finlay",
        "Greta",
        "Hamish",
        "Ilse",
        "Joren",
        "Keira",
        "Lucian",
        "Marit",
        "Nadia"
    };
    private static final String[] LAST = {
        "Holm", "Brandt", "Okafor", "Lindqvist", "Marsh", "Petersen", "Quill", "Rask", "Sandoval", "Thorne", "Ulvik",
                "Varga",
        "Wexford", "Ystad", "Zeller", "Ashdown", "Birk", "Corrigan", "Drost", "Eklund", "Farrow", "Gaarder", "Hollis",
                "Iversen",
        "Jarl", "Kessel", "Lorne", "Munro", "Nyberg", "Osei", "Prentice", "Rowe", "Stenmark", "Tolland", "Urquhart",
                "Vik"
    };
    private static final String[] TITLES = {
        "Harbour master",
        "Operations lead",
        "Purchasing",
        "Survey engineer",
        "Site manager",
        "Maintenance planner",
        "Technical director",
        "Marine superintendent",
        "Project engineer",
        "Finance"
    };
    private static final String[] DEALS = {
        "channel buoys", "tide sensor network", "lantern refit", "telemetry for pens", "mooring chain renewal",
        "survey buoy hire", "wave sensor trial", "approach lights", "service contract", "pilot station upgrade"
    };
    private static final String[] STAGES = {"first talk", "need agreed", "quoted", "in tender", "contract out"};
    private static final String[] ZONES = {
        "Europe/Oslo", "Europe/London", "Europe/Copenhagen", "Europe/Lisbon", "America/Halifax", "Europe/Helsinki"
    };

    final List<Person> people = new ArrayList<>();
    final List<Firm> firms = new ArrayList<>();
    final List<Customer> customers = new ArrayList<>();
    final List<Deal> deals = new ArrayList<>();
    private final SplittableRandom random;

    Cast(long seed) {
        random = new SplittableRandom(seed);
        for (String[] s : STAFF) {
            String local = ascii(s[0]).replace(' ', '.');
            String second = local.charAt(0) + local.substring(local.indexOf('.') + 1);
            people.add(new Person(local, s[0], List.of(local + "@" + OWN, second + "@" + OWN), s[1], s[2]));
        }
        firms(PORTS, "port");
        firms(FARMS, "farm");
        firms(SURVEYORS, "survey");
        customers();
        deals();
    }

    /** The fifth, the tenth … of a kind have a second domain. */
    private void firms(String[] names, String sort) {
        for (String name : names) {
            String domain = ascii(name).replace("port of ", "port-").replaceAll("[^a-z0-9]+", "-") + ".example";
            int n = firms.size();
            List<String> domains = n % 5 == 4 ? List.of(domain, "mail." + domain.replace("-", "")) : List.of(domain);
            Person owner = people.get(rep(n));
            firms.add(new Firm("acc-" + (100 + n), name, domains, owner, sort, ZONES[n % ZONES.length]));
        }
    }

    private static int rep(int n) {
        int[] reps = {1, 2, 3, 4, 6, 7, 8, 9};
        return reps[n % reps.length];
    }

    private void customers() {
        Map<String, Integer> used = new LinkedHashMap<>();
        for (int n = 0; n < 146; n++) {
            Firm firm = firms.get(n % firms.size());
            String name =
                    FIRST[(n * 7 + random.nextInt(3)) % FIRST.length] + " " + LAST[(n * 5 + n / 36) % LAST.length];
            String local =
                    ascii(name).replace(' ', '.') + (used.merge(firm.key() + name, 1, Integer::sum) > 1 ? n : "");
            List<String> addresses = new ArrayList<>(List.of(local + "@" + firm.domain()));
            if (n % 12 == 5) {
                addresses.add(local.replace(".", "") + "@" + FREE_MAIL);
            }
            customers.add(new Customer("con-" + (1000 + n), name, addresses, firm, TITLES[n % TITLES.length]));
        }
        namesakes(firms.get(0));
        sharedAddress(firms.get(20));
    }

    private void namesakes(Firm firm) {
        customers.add(new Customer(
                "con-2001", "Ingrid Solberg", List.of("ingrid.solberg@" + firm.domain()), firm, "Harbour master"));
        customers.add(
                new Customer("con-2002", "Ingrid Solberg", List.of("i.solberg2@" + firm.domain()), firm, "Finance"));
    }

    private void sharedAddress(Firm firm) {
        Firm other = firms.get(21);
        customers.add(new Customer(
                "con-2003",
                "Odd Kvist",
                List.of("office@havnelag.example", "odd.kvist@" + firm.domain()),
                firm,
                "Foreman"));
        customers.add(new Customer(
                "con-2004",
                "Berit Kvist",
                List.of("office@havnelag.example", "berit.kvist@" + other.domain()),
                other,
                "Bookkeeper"));
    }

    private void deals() {
        for (int n = 0; n < 60; n++) {
            Firm firm = firms.get(Math.max(1, (n * 3) % firms.size()));
            String state = n % 4 == 3 ? (n % 8 == 3 ? "won" : "lost") : "open";
            String stage = state.equals("open") ? STAGES[random.nextInt(STAGES.length)] : "closed";
            deals.add(new Deal(
                    "opp-" + (500 + n),
                    firm.name() + ", " + DEALS[(n * 7) % DEALS.length],
                    firm,
                    stage,
                    state,
                    4_000 + 500 * random.nextInt(150),
                    firm.owner()));
        }
        deals.set(
                0,
                new Deal(
                        "opp-500",
                        "Port of Skarvik, inner channel buoys",
                        firms.get(0),
                        "signed",
                        "open",
                        184_500,
                        firms.get(0).owner()));
    }

    List<Customer> at(Firm firm) {
        return customers.stream().filter(c -> c.firm().equals(firm)).toList();
    }

    static String ascii(String name) {
        return java.text.Normalizer.normalize(
                        name.toLowerCase(Locale.ROOT)
                                .replace("ø", "o")
                                .replace("æ", "ae")
                                .replace("&", "and"),
                        java.text.Normalizer.Form.NFD)
                .replaceAll("\\p{M}", "");
    }
}
