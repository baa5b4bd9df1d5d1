package jandrel.demo;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What our people have in their address books: customers whom the directory knows a little otherwise, friends who are nobody's business,
 * somebody of a company that nobody knows, namesakes, a photo, and a card into which somebody pasted a whole book.
 */
final class AddressBooks {
    private static final String[] FRIENDS = {
        "Aunt Birgit",
        "Dentist",
        "Kari next door",
        "Football coach",
        "Landlord",
        "Piano teacher",
        "Vet",
        "Cousin Ole",
        "School",
        "Plumber"
    };
    private static final String[] NEWCOMERS = {
        "Runa Ravnkilde",
        "Edvin Moe",
        "Thea Strand",
        "Ole Ness",
        "Ida Falk",
        "Jakob Lie",
        "Vilde Aas",
        "Tor Bekk",
        "Siri Lund",
        "Per Hagen"
    };
    private static final String[] FAIR = {
        "Arne", "Bente", "Dagny", "Egil", "Frida", "Gunnar", "Hilde", "Ivar", "Jorun", "Ketil", "Liv", "Magnus",
        "Norunn", "Oddvar", "Ragna", "Sigurd", "Tove", "Ulrik", "Vigdis", "Yngve", "Aud", "Brage", "Cecilie", "Didrik",
        "Embla", "Frode", "Gro", "Halvor"
    };
    private final Cast cast;
    private final Stand stand;

    AddressBooks(Cast cast, Stand stand) {
        this.cast = cast;
        this.stand = stand;
    }

    /** @return how many cards */
    int fill() throws IOException, InterruptedException {
        Providers providers = new Providers(stand);
        int cards = 0;
        for (int n = 0; n < cast.people.size(); n++) {
            Cast.Person owner = cast.people.get(n);
            providers.book(owner.address());
            for (Map.Entry<String, List<String>> card : cards(n, owner).entrySet()) {
                providers.card(
                        owner.address(), card.getKey() + ".vcf", card.getValue().toArray(String[]::new));
                cards++;
            }
        }
        return cards;
    }

    private Map<String, List<String>> cards(int n, Cast.Person owner) {
        Map<String, List<String>> cards = new LinkedHashMap<>();
        List<Cast.Customer> known = cast.customers.stream()
                .filter(c -> c.firm().owner().equals(owner) || owner.role().equals("manager"))
                .limit(3)
                .toList();
        for (int k = 0; k < known.size(); k++) {
            Cast.Customer c = known.get(k);
            List<String> lines = person(owner.key() + "-" + c.key(), c.name());
            lines.add("ORG:" + c.firm().name());
            lines.add("EMAIL;TYPE=INTERNET,WORK:" + c.address());
            // one was written down with another title, one with the telephone in the car, one with a birthday
            lines.add(
                    switch (k) {
                        case 0 -> "TITLE:" + c.title() + " (acting)";
                        case 1 -> "TEL;TYPE=CELL:" + c.phone().replace("960", "970");
                        default -> "BDAY:1979-04-1" + n;
                    });
            if (n == 1 && k == 0) {
                lines.add("PHOTO;ENCODING=b;TYPE=JPEG:"
                        + Base64.getEncoder().encodeToString("a face by the sea".getBytes(StandardCharsets.UTF_8)));
            }
            lines.add("REV:2026-03-0" + (1 + k) + "T09:00:00Z");
            cards.put("known-" + k, lines);
        }
        List<String> friend = person(owner.key() + "-friend", FRIENDS[n]);
        friend.add(n % 2 == 0 ? "CLASS:PRIVATE" : "CATEGORIES:Family");
        friend.add("TEL;TYPE=HOME:+44 1632 960 9" + (10 + n));
        cards.put("friend", friend);
        List<String> newcomer = person(owner.key() + "-new", NEWCOMERS[n]);
        String firm = n % 3 == 0 ? "Ravnkilde Marine" : n % 3 == 1 ? "Port of Skarvik" : "Harbour Institute";
        newcomer.add("ORG:" + firm);
        newcomer.add("EMAIL;TYPE=INTERNET,WORK:"
                + Cast.ascii(NEWCOMERS[n]).replace(' ', '.') + "@"
                + (n % 3 == 0 ? "ravnkilde.example" : n % 3 == 1 ? "quay.example" : "institute.example"));
        cards.put("newcomer", newcomer);
        if (n == 1) {
            List<String> namesake = person(owner.key() + "-solberg", "Ingrid Solberg");
            namesake.add("ORG:" + cast.firms.get(0).name());
            namesake.add("NOTE:Met at the fair");
            cards.put("solberg", namesake);
        }
        if (n == 2) {
            List<String> pasted = person(owner.key() + "-pasted", "Harbour manual");
            pasted.add(
                    "NOTE:" + "Keep clear of the swing bridge. ".repeat(1_000).strip());
            cards.put("pasted", pasted);
        }
        if (n == 8) {
            for (String first : FAIR) {
                List<String> met = person(owner.key() + "-fair-" + first, first + " Nordfair");
                met.add("ORG:Nordfair exhibitors");
                met.add("EMAIL;TYPE=INTERNET:" + first.toLowerCase(java.util.Locale.ROOT) + "@nordfair.example");
                cards.put("fair-" + first, met);
            }
        }
        return cards;
    }

    private static List<String> person(String uid, String name) {
        int last = name.lastIndexOf(' ');
        List<String> lines = new ArrayList<>();
        lines.add("UID:" + uid);
        lines.add("FN:" + name);
        lines.add("N:" + (last < 0 ? name + ";;;;" : name.substring(last + 1) + ";" + name.substring(0, last) + ";;;"));
        return lines;
    }
}
