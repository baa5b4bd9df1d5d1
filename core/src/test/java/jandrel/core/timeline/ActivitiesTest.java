package jandrel.core.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Decider;
import jandrel.core.decide.Sentences;
import jandrel.core.decide.Vantage;
import jandrel.core.decide.World;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.State;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.visibility.Viewer;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ActivitiesTest {
    private static Logged logged(UUID person, Item item) {
        return new Logged(
                person,
                item,
                Decider.decide(
                        item,
                        new Vantage(person, Instant.EPOCH),
                        Policy.first(),
                        World.directory().build()));
    }

    @Test
    void nothingLoggedIsNoActivity() {
        assertThat(Activities.combine(List.of())).isEmpty();
    }

    @Test
    void theBlindCopiesThatOnlyTheSendersCopyNamesAreNotLost() {
        MailItem received = World.mail("tobias@corvane.example", "bram@skarvik.example");
        List<Party> more = new ArrayList<>(received.parties());
        more.add(new Party(Part.BCC, EmailAddress.of("maren@corvane.example"), ""));
        MailItem sent =
                new MailItem(received.identity(), received.at(), true, more, received.subject(), Nature.ORDINARY);
        Activity a = Activities.combine(List.of(logged(World.LEAD.id(), received), logged(World.REP.id(), sent)))
                .orElseThrow();
        assertThat(a.item().parties()).extracting(Party::part).contains(Part.BCC);
        assertThat(a.owners()).containsExactly(World.REP.id(), World.LEAD.id());
        assertThat(a.insiders()).containsExactlyInAnyOrder(World.REP.id(), World.LEAD.id());
    }

    @Test
    void theNarrowestSharingOfAllSightingsCounts() {
        Party owner = World.party(Part.ORGANISER, "tobias@corvane.example");
        Party guest = World.party(Part.ATTENDEE, "bram@skarvik.example");
        Activity a = Activities.combine(List.of(
                        logged(World.LEAD.id(), World.meeting(Privacy.PUBLIC, State.PLANNED, owner, guest)),
                        logged(World.REP.id(), World.meeting(Privacy.PRIVATE, State.PLANNED, owner, guest))))
                .orElseThrow();
        assertThat(a.readers().everyone()).isFalse();
        assertThat(a.readers().people()).containsExactlyInAnyOrder(World.REP.id(), World.LEAD.id());
    }

    @Test
    void theNewestVersionOfAMeetingStands() {
        MeetingItem old =
                World.meeting(Privacy.PUBLIC, State.PLANNED, World.party(Part.ATTENDEE, "bram@skarvik.example"));
        MeetingItem moved = new MeetingItem(
                old.identity(),
                old.uid(),
                null,
                old.at().plusSeconds(3600),
                old.ends().plusSeconds(3600),
                false,
                old.zone(),
                old.parties(),
                "Moved",
                "",
                "",
                Privacy.PUBLIC,
                State.PLANNED,
                1,
                0,
                List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
        Activity a = Activities.combine(List.of(logged(World.REP.id(), old), logged(World.LEAD.id(), moved)))
                .orElseThrow();
        assertThat(a.item().subject()).isEqualTo("Moved");
    }

    @Test
    void aTeamReadsWhereThePolicySaysSo() {
        MailItem mail = World.mail("tobias@corvane.example", "bram@skarvik.example");
        UUID team = Viewer.team("North");
        Activity a = Activities.combine(List.of(new Logged(
                        World.LEAD.id(),
                        mail,
                        Decider.decide(
                                mail,
                                new Vantage(World.LEAD.id(), team, Instant.EPOCH, null, Sharing.EVERYONE),
                                Policy.first().with(Sharing.TEAM),
                                World.directory().build()))))
                .orElseThrow();
        assertThat(a.readers().people()).containsExactlyInAnyOrder(World.REP.id(), World.LEAD.id(), team);
    }

    @Test
    void aRulingOpensOrClosesOneItemAndTheTrailSaysSo() {
        Party owner = World.party(Part.ORGANISER, "tobias@corvane.example");
        Party guest = World.party(Part.ATTENDEE, "bram@skarvik.example");
        Logged hidden = logged(World.REP.id(), World.meeting(Privacy.PRIVATE, State.PLANNED, owner, guest));
        Logged open = logged(World.REP.id(), World.mail("tobias@corvane.example", "bram@skarvik.example"));
        UUID friend = World.id(77);
        Activity opened = Activities.combine(
                        List.of(hidden), Optional.of(new Ruling(true, Set.of(friend), "Tobias", "Ina")))
                .orElseThrow();
        assertThat(opened.readers().people()).containsExactlyInAnyOrder(World.REP.id(), friend);
        assertThat(Sentences.of(opened.trail())).containsExactly("Tobias opened it to Ina.");
        Activity closed = Activities.combine(
                        List.of(open), Optional.of(new Ruling(false, Set.of(friend), "Tobias", "Ina")))
                .orElseThrow();
        assertThat(closed.readers().people()).containsExactlyInAnyOrder(World.REP.id(), friend);
        assertThat(Activities.combine(List.of(open), Optional.of(new Ruling(true, Set.of(friend), "T", "I")))
                        .orElseThrow()
                        .readers()
                        .everyone())
                .isTrue();
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10})
    void theOrderOfSightingsChangesNothing(long seed) {
        Random random = new Random(seed);
        List<Logged> sightings = new ArrayList<>();
        for (int i = 0; i < 6; i++) {
            MeetingItem m = World.meeting(
                    random.nextBoolean() ? Privacy.PUBLIC : Privacy.PRIVATE,
                    State.PLANNED,
                    World.party(Part.ATTENDEE, random.nextBoolean() ? "bram@skarvik.example" : "office@kvist.example"));
            sightings.add(logged(
                    World.id(random.nextInt(4)),
                    new MeetingItem(
                            m.identity(),
                            m.uid(),
                            null,
                            m.at().plusSeconds(random.nextInt(3)),
                            m.ends(),
                            false,
                            "",
                            m.parties(),
                            "s" + random.nextInt(3),
                            "",
                            "",
                            m.privacy(),
                            m.state(),
                            random.nextInt(2),
                            random.nextInt(2),
                            List.of(),
                            MeetingItem.Sort.MEETING,
                            MeetingItem.Transparency.OPAQUE)));
        }
        Activity expected = Activities.combine(sightings).orElseThrow();
        for (int i = 0; i < 20; i++) {
            Collections.shuffle(sightings, random);
            assertThat(Activities.combine(sightings)).as("seed %d", seed).contains(expected);
        }
    }
}
