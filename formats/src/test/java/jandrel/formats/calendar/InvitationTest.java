package jandrel.formats.calendar;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.reconcile.Answer;
import jandrel.core.reconcile.Details;
import jandrel.core.reconcile.Details.When;
import jandrel.core.reconcile.InvitationDiff.Letter;
import jandrel.core.reconcile.InvitationDiff.Sort;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class InvitationTest {
    private static final Instant TEN = Instant.parse("2026-05-04T08:00:00Z");
    private static final String BRAM = "bram@skarvik.example";
    private static final Details SIGNING = new Details(
            "Signing; at last",
            new When(TEN, TEN.plusSeconds(3600), false, "Europe/Oslo"),
            "Pier 3",
            "",
            "Bring the chart",
            true,
            Privacy.PRIVATE,
            15,
            new TreeSet<>(Set.of(BRAM, "astrid@skarvik.example")),
            new TreeMap<>(Map.of("astrid@skarvik.example", Answer.ACCEPTED)),
            false);

    private static String text(Sort sort, Instant recurrence) {
        Invitation made = Invitation.of(
                new Letter(BRAM, sort, SIGNING),
                "uid-1",
                recurrence,
                3,
                TEN,
                "maren@corvane.example",
                "Maren Aldous",
                Map.of(BRAM, "Bram \"Boy\" Holm"));
        return new String(made.object(), StandardCharsets.UTF_8).replace("\r\n ", "");
    }

    @Test
    void aGuestIsToldWhatIsMeantForGuestsAndNothingElse() {
        assertThat(text(Sort.ASKED, null))
                .contains("METHOD:REQUEST", "UID:uid-1", "SEQUENCE:3", "DTSTAMP:20260504T080000Z")
                .contains("SUMMARY:Signing\\; at last", "DTSTART;TZID=Europe/Oslo:20260504T100000", "TZID:Europe/Oslo")
                .contains("ORGANIZER;CN=Maren Aldous:mailto:maren@corvane.example")
                .contains("PARTSTAT=ACCEPTED", "PARTSTAT=NEEDS-ACTION", "Bram ^'Boy^' Holm")
                .doesNotContain("VALARM", "CLASS", "X-JANDREL", "SCHEDULE-AGENT", "RECURRENCE-ID");
    }

    @Test
    void whoIsTakenOffIsToldAloneAndOfAnOccurrenceByItsName() {
        assertThat(text(Sort.WITHDRAWN, TEN))
                .contains("METHOD:CANCEL", "STATUS:CANCELLED", "RECURRENCE-ID:20260504T080000Z", BRAM)
                .doesNotContain("astrid");
    }

    private static String reply(String says, String... more) {
        return String.join(
                "\r\n",
                "BEGIN:VCALENDAR",
                "METHOD:REPLY",
                "BEGIN:VEVENT",
                "UID:uid-1",
                "SEQUENCE:3",
                "DTSTAMP:20260504T090000Z",
                String.join("\r\n", more),
                "ATTENDEE;PARTSTAT=" + says + ":mailto:" + BRAM.toUpperCase(java.util.Locale.ROOT),
                "END:VEVENT",
                "END:VCALENDAR");
    }

    @ParameterizedTest
    @CsvSource({"ACCEPTED,ACCEPTED", "declined,DECLINED", "TENTATIVE,TENTATIVE", "DELEGATED,DELEGATED"})
    void anAnswerIsRead(String says, Answer answer) {
        assertThat(Reply.of(reply(says), EmailAddress.of(BRAM)))
                .contains(new Reply("uid-1", null, BRAM, answer, 3, TEN.plusSeconds(3600)));
    }

    @Test
    void anAnswerToOneOccurrenceNamesIt() {
        assertThat(Reply.of(reply("ACCEPTED", "RECURRENCE-ID;TZID=Europe/Oslo:20260504T100000"), EmailAddress.of(BRAM)))
                .get()
                .extracting(Reply::recurrence)
                .isEqualTo(TEN);
    }

    @Test
    void whatIsNoAnswerOfWhoWroteItIsNone() {
        EmailAddress bram = EmailAddress.of(BRAM);
        assertThat(Reply.of(reply("NEEDS-ACTION"), bram)).isEmpty();
        assertThat(Reply.of(reply("ACCEPTED"), EmailAddress.of("mallory@skarvik.example")))
                .isEmpty();
        assertThat(Reply.of(reply("ACCEPTED").replace("REPLY", "REQUEST"), bram))
                .isEmpty();
        assertThat(Reply.of(reply("ACCEPTED", "ATTENDEE;PARTSTAT=ACCEPTED:mailto:astrid@skarvik.example"), bram))
                .isEmpty();
        assertThat(Reply.of(reply("ACCEPTED").replace("UID:uid-1\r\n", ""), bram))
                .isEmpty();
        assertThat(Reply.of("no calendar at all", bram)).isEmpty();
    }
}
