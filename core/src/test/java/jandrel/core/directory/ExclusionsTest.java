package jandrel.core.directory;

import static jandrel.core.decide.World.NOON;
import static jandrel.core.decide.World.id;
import static jandrel.core.decide.World.mail;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.decide.World;
import jandrel.core.directory.Exclusion.Kind;
import jandrel.core.directory.Exclusion.Limits;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party.Part;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Random;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ExclusionsTest {
    private static boolean covers(Kind kind, String what, Item item) {
        return covers(kind, what, Limits.NONE, item);
    }

    private static boolean covers(Kind kind, String what, Limits limits, Item item) {
        Exclusion e = new Exclusion(id(9), kind, what, "", limits);
        return new ExclusionIndex(List.of(e)).covering(item, id(1), id(2)).isPresent();
    }

    private static MailItem marked(String... markers) {
        MailItem m = mail("bram@skarvik.example");
        return new MailItem(m.identity(), m.at(), true, m.parties(), m.subject(), m.nature(), List.of(markers));
    }

    private static MeetingItem meeting(String title, MeetingItem.Privacy privacy, String... categories) {
        MeetingItem m =
                World.meeting(privacy, MeetingItem.State.PLANNED, World.party(Part.ATTENDEE, "bram@skarvik.example"));
        return new MeetingItem(
                m.identity(),
                m.uid(),
                null,
                m.at(),
                m.ends(),
                false,
                "",
                m.parties(),
                title,
                "",
                "",
                privacy,
                m.state(),
                0,
                0,
                List.of(categories),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
    }

    @Test
    void addressesAndDomainsWithAndWithoutWhatIsBelow() {
        Item deep = mail("x@mail.skarvik.example");
        assertThat(covers(Kind.ADDRESS, "x@mail.skarvik.example", deep)).isTrue();
        assertThat(covers(Kind.ADDRESS, "y@mail.skarvik.example", deep)).isFalse();
        assertThat(covers(Kind.DOMAIN, "@skarvik.example", deep)).isTrue();
        assertThat(covers(Kind.DOMAIN_ALONE, "@skarvik.example", deep)).isFalse();
        assertThat(covers(Kind.DOMAIN_ALONE, "@mail.skarvik.example", deep)).isTrue();
        assertThat(covers(Kind.PATTERN, "*@*.skarvik.example", deep)).isTrue();
        assertThat(covers(Kind.PATTERN, "?@skarvik.example", deep)).isFalse();
    }

    @Test
    void markersOfMail() {
        Item mail = marked("list-id: tide talk <tide.lists.example>", "x-mailer: stormpost 4");
        assertThat(covers(Kind.LIST, "tide.lists.example", mail)).isTrue();
        assertThat(covers(Kind.LIST, "ide.lists.example", mail)).isFalse();
        assertThat(covers(Kind.HEADER, "x-mailer: stormpost*", mail)).isTrue();
        assertThat(covers(Kind.HEADER, "x-mailer: storm", mail)).isFalse();
    }

    @Test
    void markersOfMeetings() {
        Item dentist = meeting("Dentist: check-up, Tuesday", MeetingItem.Privacy.CONFIDENTIAL, "personal");
        assertThat(covers(Kind.CATEGORY, "personal", dentist)).isTrue();
        assertThat(covers(Kind.CATEGORY, "person", dentist)).isFalse();
        assertThat(covers(Kind.CLASS, "confidential", dentist)).isTrue();
        assertThat(covers(Kind.CLASS, "private", dentist)).isFalse();
        assertThat(covers(Kind.TITLE, "dentist tuesday", dentist)).isTrue();
        assertThat(covers(Kind.TITLE, "dent", dentist)).isFalse();
    }

    @Test
    void limitsOfPolicyPersonAndDay() {
        Item mail = mail("bram@skarvik.example");
        LocalDate day = NOON.atOffset(ZoneOffset.UTC).toLocalDate();
        assertThat(covers(Kind.DOMAIN, "@skarvik.example", new Limits(id(1), id(2), day), mail))
                .isTrue();
        assertThat(covers(Kind.DOMAIN, "@skarvik.example", new Limits(id(3), null, null), mail))
                .isFalse();
        assertThat(covers(Kind.DOMAIN, "@skarvik.example", new Limits(null, id(3), null), mail))
                .isFalse();
        assertThat(covers(Kind.DOMAIN, "@skarvik.example", new Limits(null, null, day.minusDays(1)), mail))
                .isFalse();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void wildcardsDoAsTheRegularExpressionWould(long seed) {
        Random random = new Random(seed);
        for (int i = 0; i < 5_000; i++) {
            String pattern = random(random, "ab*?", 6);
            String text = random(random, "ab", 8);
            String regex = pattern.replace("*", ".*").replace("?", ".");
            assertThat(Wildcards.match(pattern, text))
                    .as("seed %d: %s on %s", seed, pattern, text)
                    .isEqualTo(Pattern.matches(regex, text));
        }
    }

    private static String random(Random random, String letters, int most) {
        StringBuilder text = new StringBuilder();
        for (int n = random.nextInt(most + 1); n > 0; n--) {
            text.append(letters.charAt(random.nextInt(letters.length())));
        }
        return text.toString();
    }
}
