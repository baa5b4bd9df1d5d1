package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.ContactApi.BookInfo;
import jandrel.api.ContactApi.CardConflict;
import jandrel.demo.Providers;
import java.util.Map;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** The service dies between writing a card and hearing the answer, and comes back. */
@Tag("alone")
class CardKillTest {
    private static final String FILE = "key,name,addresses,account,title\ncut-one,Una Cut,una@cut.example,cut,";

    @Test
    void whateverIsCutOffBothSidesAgreeInTheEnd() throws Exception {
        try (Harbour h = Harbour.open("card_kill");
                Gate gate = new Gate(h.stand)) {
            String who = h.person("cut", "rep");
            h.providers.book(who);
            h.everyone(Map.of("contacts", "both"));
            h.csv("accounts", "key,name,domains,owner\ncut,Account cut,cut.example,cut");
            h.csv("contacts", FILE + "First");
            h.admin.post("/api/servers", new NewServer("gate", "carddav", "127.0.0.1", gate.port(), "/"), Object.class);

            CutOff.in(
                    h,
                    gate::after,
                    () -> h.admin.post(
                            "/api/connections",
                            new NewConnection("cut", "gate", who, Providers.PASSWORD),
                            Object.class));
            CutOff.comesBack(h, gate);
            untilInStep(h, 1);
            assertThat(h.providers.cards(who))
                    .as("written once, and known again")
                    .hasSize(1);

            CutOff.in(h, gate::before, () -> h.csv("contacts", FILE + "Second"));
            CutOff.comesBack(h, gate);
            soon().until(() -> card(h, who).contains("TITLE:Second"));
            untilInStep(h, 1);

            // its owner changes it before the service is back: both changes live, and neither was in the other's way
            CutOff.in(h, gate::after, () -> h.csv("contacts", FILE + "Third"));
            soon().until(gate::isSprung);
            h.providers.wholeCard(
                    who,
                    h.providers.cards(who).get(0),
                    card(h, who).replace("END:VCARD", "NOTE:Likes boats\r\nEND:VCARD"));
            CutOff.comesBack(h, gate);
            soon().until(() ->
                    h.process.count("SELECT count(*) FROM contact_details WHERE details LIKE '%Likes boats%'") == 1);
            untilInStep(h, 1);
            assertThat(card(h, who)).contains("TITLE:Third", "NOTE:Likes boats");
            assertThat(h.process.count("SELECT count(*) FROM contact WHERE title = 'Third'"))
                    .isEqualTo(1);
            assertThat(h.admin.get("/api/card-conflicts", CardConflict[].class)).isEmpty();
            assertThat(h.process.count("SELECT count(*) FROM contact")).isEqualTo(1);
            h.process.service.stop();
        }
    }

    private static String card(Harbour h, String who) throws Exception {
        return h.providers.cardText(who, h.providers.cards(who).get(0)).orElse("");
    }

    private static void untilInStep(Harbour h, int cards) {
        soon().until(() -> {
            BookInfo[] books = h.admin.get("/api/address-books", BookInfo[].class);
            return books.length == 1 && books[0].pending() == 0 && books[0].alike() == cards;
        });
    }
}
