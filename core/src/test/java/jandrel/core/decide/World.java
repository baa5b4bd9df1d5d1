package jandrel.core.decide;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.Insider;
import jandrel.core.directory.Opportunity;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;

/** A small directory for tests: two of ours, three accounts, people at them. */
public final class World {
    public static final Instant NOON = Instant.parse("2026-05-04T12:00:00Z");
    public static final Insider REP = new Insider(id(1), "Tobias Renn");
    public static final Insider LEAD = new Insider(id(2), "Maren Aldous");
    public static final Account PORT = new Account(id(10), "Port of Skarvik", REP.id());
    public static final Account FARM = new Account(id(11), "Hebra Mussels", LEAD.id());
    public static final Contact BRAM = new Contact(id(20), "c1", "Bram Holm", PORT, null);
    public static final Contact ODD = new Contact(
            id(21),
            "c2",
            "Odd Kvist",
            PORT,
            LocalDate.parse("2026-01-05"),
            java.util.List.of(),
            java.time.Instant.parse("2026-01-01T00:00:00Z"));
    public static final Contact BERIT = new Contact(id(22), "c3", "Berit Kvist", FARM, LocalDate.parse("2026-03-01"));
    public static final Contact LONE = new Contact(id(23), "c4", "Una Rask", null, null);
    public static final Opportunity BUOYS = new Opportunity(id(30), "inner channel buoys");

    private World() {}

    public static UUID id(long n) {
        return new UUID(7, n);
    }

    public static DirectorySlice.Builder directory() {
        return DirectorySlice.builder()
                .person("tobias@corvane.example", REP)
                .person("maren@corvane.example", LEAD)
                .ownDomain("@corvane.example")
                .freeMail("@fjordpost.example")
                .contact("bram@skarvik.example", BRAM)
                .contact("bram.holm@fjordpost.example", BRAM)
                .contact("office@kvist.example", ODD)
                .contact("office@kvist.example", BERIT)
                .contact("una@rask.example", LONE)
                .accountDomain("@skarvik.example", PORT)
                .accountDomain("@hebra.example", FARM)
                .open(PORT.id(), BUOYS)
                .open(FARM.id(), new Opportunity(id(31), "pen telemetry"))
                .open(FARM.id(), new Opportunity(id(32), "mussel lines"));
    }

    public static DirectorySlice.Builder excluding(String key) {
        return directory().exclusion(Exclusion.of(id(40), key, "supplier"));
    }

    public static MailItem mail(String from, String... to) {
        return mail(Nature.ORDINARY, NOON, from, to);
    }

    public static MailItem mail(Nature nature, Instant at, String from, String... to) {
        List<Party> parties = new ArrayList<>(List.of(new Party(Part.FROM, EmailAddress.of(from), "")));
        for (String address : to) {
            parties.add(new Party(Part.TO, EmailAddress.of(address), ""));
        }
        return new MailItem("mail:1", at, true, parties, "Buoys", nature);
    }

    public static MeetingItem meeting(MeetingItem.Privacy privacy, MeetingItem.State state, Party... parties) {
        return new MeetingItem(
                "meeting:1|",
                "1",
                null,
                NOON,
                NOON.plus(Duration.ofHours(1)),
                false,
                "Europe/Oslo",
                List.of(parties),
                "Signing",
                "",
                "",
                privacy,
                state,
                0,
                0,
                List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
    }

    public static Party party(Part part, String address) {
        return new Party(part, EmailAddress.of(address), "");
    }
}
