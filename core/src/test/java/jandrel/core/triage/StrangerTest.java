package jandrel.core.triage;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.junit.jupiter.api.Test;

class StrangerTest {
    private static final Instant NOW = Instant.parse("2026-05-04T12:00:00Z");

    private static Stranger stranger(String name, long in, long out, long meetings, long people, boolean atAccount) {
        return new Stranger(
                name + "@x.example",
                "x.example",
                name,
                in,
                out,
                0,
                meetings,
                in + out + meetings,
                in,
                people,
                NOW,
                NOW,
                false,
                atAccount,
                false,
                name.equals("known by number"));
    }

    @Test
    void whoeverIsTalkedWithComesBeforeWhoeverOnlyWrites() {
        Stranger talks = stranger("talks", 2, 2, 0, 1, false);
        Stranger meets = stranger("meets", 0, 0, 1, 1, false);
        Stranger colleague = stranger("colleague", 1, 0, 0, 1, true);
        Stranger once = stranger("once", 1, 0, 0, 1, false);
        Stranger newsletter = stranger("newsletter", 60, 0, 0, 9, false);
        Stranger byNumber = stranger("known by number", 2, 0, 0, 1, false);
        assertThat(Stranger.ranked(List.of(newsletter, once, colleague, byNumber, meets, talks), NOW))
                .containsExactly(talks, meets, byNumber, colleague, once, newsletter);
    }

    @Test
    void whatIsLongPastFades() {
        Stranger now = stranger("b", 1, 1, 0, 1, false);
        Stranger past = new Stranger(
                "a@x.example",
                "x.example",
                "a",
                1,
                1,
                0,
                0,
                2,
                1,
                1,
                NOW.minus(400, ChronoUnit.DAYS),
                NOW.minus(300, ChronoUnit.DAYS),
                false,
                false,
                false,
                false);
        assertThat(Stranger.ranked(List.of(past, now), NOW)).containsExactly(now, past);
    }

    @Test
    void onlyWhoWritesOftenOrWideAndIsNeverAnsweredLooksLikeBulk() {
        assertThat(stranger("n", 60, 0, 0, 9, false).bulk()).isEqualTo(100);
        assertThat(stranger("a", 60, 1, 0, 9, false).bulk()).isZero();
        assertThat(stranger("o", 1, 0, 0, 1, false).bulk()).isLessThan(15);
    }
}
