package jandrel.core.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.item.Inside;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.ThreadHeaders;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class ConversationsTest {
    private static final Instant NOON = Instant.parse("2026-05-04T12:00:00Z");

    private static MailItem mail(int day, String id, String subject, String from, String to, String... before) {
        List<Party> parties =
                List.of(new Party(Part.FROM, EmailAddress.of(from), ""), new Party(Part.TO, EmailAddress.of(to), ""));
        boolean reply = before.length > 0 || subject.startsWith("Re:");
        return new MailItem(
                "mail:" + day + id + from,
                NOON.plus(day, ChronoUnit.DAYS),
                true,
                parties,
                subject,
                Nature.ORDINARY,
                List.of(),
                new ThreadHeaders(id, List.of(before), reply),
                Inside.NOTHING);
    }

    private static final MailItem ROOT = mail(1, "r", "Buoys", "a@x.example", "b@y.example");
    private static final MailItem ANSWER = mail(2, "s", "Re: Buoys", "b@y.example", "a@x.example", "r");
    private static final MailItem LATER = mail(3, "t", "AW: Buoys", "a@x.example", "b@y.example", "s");
    private static final MailItem MUTE = mail(4, "", "Re: Buoys", "b@y.example", "a@x.example");
    private static final MailItem NAMESAKE = mail(4, "n", "Buoys", "c@z.example", "d@z.example");
    private static final MailItem LATE = mail(90, "", "Re: Buoys", "b@y.example", "a@x.example");
    private static final List<MailItem> ALL = List.of(ROOT, ANSWER, LATER, MUTE, NAMESAKE, LATE);

    @Test
    void answersHangTogetherThoughTheyNameOnlyTheNextAndOneWhoNamesNothingIsFoundBySubjectAndPeople() {
        assertThat(Conversations.of(LATER, ALL)).containsExactly(ROOT, ANSWER, LATER, MUTE);
        assertThat(Conversations.of(NAMESAKE, ALL)).containsExactly(NAMESAKE);
        assertThat(Conversations.of(LATE, ALL)).containsExactly(LATE);
    }

    @Test
    void eachMessageIsInExactlyOne() {
        assertThat(Conversations.all(ALL))
                .containsExactly(List.of(ROOT, ANSWER, LATER, MUTE), List.of(NAMESAKE), List.of(LATE));
        assertThat(Conversations.all(List.of())).isEmpty();
    }

    @Test
    void whatLiesBetweenMayBeMissing() {
        MailItem far = mail(5, "u", "Re: Buoys", "b@y.example", "a@x.example", "r", "s", "t");
        assertThat(Conversations.of(far, List.of(ROOT))).containsExactly(ROOT, far);
    }

    @Test
    void theOrderInWhichTheyAreGivenSaysNothing() {
        for (int seed = 0; seed < 200; seed++) {
            List<MailItem> shuffled = new ArrayList<>(ALL);
            Collections.shuffle(shuffled, new Random(seed));
            assertThat(Conversations.of(shuffled.get(0), shuffled))
                    .as("seed %d", seed)
                    .isEqualTo(Conversations.of(shuffled.get(0), ALL));
        }
    }
}
