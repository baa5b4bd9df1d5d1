package jandrel.core.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.decide.World;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.State;
import jandrel.core.policy.Keeping;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StandingTest {
    private static final MeetingItem PLANNED = World.meeting(Privacy.PUBLIC, State.PLANNED);
    private static final Instant BEFORE = PLANNED.ends().minusSeconds(1);
    private static final Instant AFTER = PLANNED.ends();

    private static Standing of(MeetingItem meeting, boolean declined, boolean missed, String told, Instant now) {
        return Standing.of(meeting, declined, missed, told, now);
    }

    @Test
    void whatHasEndedWasHeldUnlessItsWordsOrSomebodySayOtherwise() {
        assertThat(of(PLANNED, false, false, "", BEFORE)).isEqualTo(Standing.PLANNED);
        assertThat(of(PLANNED, false, false, "", AFTER)).isEqualTo(Standing.HELD);
        assertThat(of(PLANNED, false, true, "", BEFORE)).isEqualTo(Standing.PLANNED);
        assertThat(of(PLANNED, false, true, "", AFTER)).isEqualTo(Standing.MISSED);
        assertThat(of(PLANNED, false, true, "held", AFTER)).isEqualTo(Standing.HELD);
        assertThat(of(PLANNED, false, false, "missed", AFTER)).isEqualTo(Standing.MISSED);
        assertThat(of(PLANNED, true, true, "", AFTER)).isEqualTo(Standing.DECLINED);
        assertThat(of(World.meeting(Privacy.PUBLIC, State.CANCELLED), false, true, "held", AFTER))
                .isEqualTo(Standing.CANCELLED);
    }

    private static MeetingItem titled(String title, String... categories) {
        return new MeetingItem(
                "meeting:1|",
                "1",
                null,
                BEFORE,
                AFTER,
                false,
                "",
                List.of(),
                title,
                "",
                "",
                Privacy.PUBLIC,
                State.PLANNED,
                0,
                0,
                List.of(categories),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
    }

    @ParameterizedTest
    @CsvSource({
        "No-show: demo for Skarvik,true", "NO SHOW,true", "demo (no show),true", "no shower today,false",
        "Show them no boats,false", "ikke møtt – demo,true", "Demo,false", "'',false"
    })
    void aTitleSaysSoWithAWordOfItsOwn(String title, boolean missed) {
        assertThat(keeping().missed(titled(title)).isPresent()).isEqualTo(missed);
    }

    @Test
    void aCategorySaysSo() {
        assertThat(keeping().missed(titled("Demo", "no-show"))).contains("no-show");
        assertThat(keeping().missed(titled("Demo", "show"))).isEmpty();
        assertThat(Keeping.SAFE.missed(titled("No-show"))).isEmpty();
    }

    private static Keeping keeping() {
        return new Keeping(
                "{title}",
                true,
                Keeping.Stands.LATER,
                false,
                Keeping.DeletedHere.REMOVE,
                false,
                List.of("no-show", "ikke møtt"));
    }
}
