package jandrel.core.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Decider;
import jandrel.core.decide.Sentences;
import jandrel.core.decide.SourceContext;
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
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ActivitiesTest {
    private static Logged logged(UUID person, Item item) {
        return new Logged(
                UUID.nameUUIDFromBytes((person + item.toString()).getBytes(java.nio.charset.StandardCharsets.UTF_8)),
                person,
                item,
                null,
                Decider.decide(
                        item,
                        new SourceContext(person, Instant.EPOCH),
                        Policy.first(),
                        World.directory().build()));
    }

    private static List<Activity> combine(List<Logged> copies) {
        return ActivityMerge.combine(World.id(99), copies, Map.of());
    }

    private static Activity one(Logged... copies) {
        List<Activity> all = combine(List.of(copies));
        assertThat(all).hasSize(1);
        return all.get(0);
    }

    @Test
    void nothingLoggedIsNoActivity() {
        assertThat(combine(List.of())).isEmpty();
    }

    @Test
    void theBlindCopiesThatOnlyTheSendersCopyNamesAreNotLost() {
        MailItem received = World.mail("tobias@corvane.example", "bram@skarvik.example");
        List<Party> more = new ArrayList<>(received.parties());
        more.add(new Party(Part.BCC, EmailAddress.of("maren@corvane.example"), ""));
        MailItem sent =
                new MailItem(received.identity(), received.at(), true, more, received.subject(), Nature.ORDINARY);
        // the one who has a blind copy brings it in their own mailbox: unseen by all but themselves
        Activity a = one(logged(World.LEAD.id(), received.saying("20:x")), logged(World.REP.id(), sent.saying("20:x")));
        assertThat(a.item().parties()).extracting(Party::part).contains(Part.BCC);
        assertThat(a.faces()).hasSize(1);
        assertThat(a.faces().get(0).authors()).containsExactly(World.REP.id());
        assertThat(a.owners()).containsExactly(World.REP.id());
        assertThat(a.insiders()).containsExactlyInAnyOrder(World.REP.id(), World.LEAD.id());
    }

    @Test
    void theNarrowestSharingOfAllSightingsCounts() {
        Party owner = World.party(Part.ORGANISER, "tobias@corvane.example");
        Party guest = World.party(Part.ATTENDEE, "bram@skarvik.example");
        Party colleague = World.party(Part.ATTENDEE, "maren@corvane.example");
        Activity a = one(
                logged(World.LEAD.id(), World.meeting(Privacy.PUBLIC, State.PLANNED, owner, guest, colleague)),
                logged(World.REP.id(), World.meeting(Privacy.PRIVATE, State.PLANNED, owner, guest, colleague)));
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
        Activity a = one(logged(World.REP.id(), old), logged(World.REP.id(), moved));
        assertThat(a.item().subject()).isEqualTo("Moved");
    }

    @Test
    void aTeamReadsWhereThePolicySaysSo() {
        MailItem mail = World.mail("tobias@corvane.example", "bram@skarvik.example");
        UUID team = Viewer.team("North");
        Activity a = one(new Logged(
                World.id(55),
                World.LEAD.id(),
                mail,
                null,
                Decider.decide(
                        mail,
                        new SourceContext(World.LEAD.id(), team, Instant.EPOCH, null, Sharing.EVERYONE),
                        Policy.first().with(Sharing.TEAM),
                        World.directory().build())));
        assertThat(a.readers().people()).containsExactlyInAnyOrder(World.REP.id(), World.LEAD.id(), team);
    }

    @Test
    void aRulingOpensOrClosesOneItemAndTheTrailSaysSo() {
        Party owner = World.party(Part.ORGANISER, "tobias@corvane.example");
        Party guest = World.party(Part.ATTENDEE, "bram@skarvik.example");
        Logged hidden = logged(World.REP.id(), World.meeting(Privacy.PRIVATE, State.PLANNED, owner, guest));
        Logged open = logged(World.REP.id(), World.mail("tobias@corvane.example", "bram@skarvik.example"));
        UUID friend = World.id(77);
        Activity opened = ruled(hidden, new Ruling(true, Set.of(friend), "Tobias", "Ina"));
        assertThat(opened.readers().people()).containsExactlyInAnyOrder(World.REP.id(), friend);
        assertThat(Sentences.of(opened.trail())).containsExactly("Tobias opened it to Ina.");
        Activity closed = ruled(open, new Ruling(false, Set.of(friend), "Tobias", "Ina"));
        assertThat(closed.readers().people()).containsExactlyInAnyOrder(World.REP.id(), friend);
        assertThat(ruled(open, new Ruling(true, Set.of(friend), "T", "I"))
                        .readers()
                        .everyone())
                .isTrue();
    }

    private static Activity ruled(Logged copy, Ruling ruling) {
        return ActivityMerge.combine(World.id(99), List.of(copy), Map.of(copy.person(), ruling))
                .get(0);
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
        List<Activity> expected = combine(sightings);
        for (int i = 0; i < 20; i++) {
            Collections.shuffle(sightings, random);
            assertThat(combine(sightings)).as("seed %d", seed).isEqualTo(expected);
        }
    }
}
