package jandrel.core.opening;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Insider;
import jandrel.core.directory.Lead;
import jandrel.core.directory.Opportunity;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.opening.OpeningResult.Did;
import jandrel.core.policy.Creation.Comparison;
import jandrel.core.policy.Opening;
import jandrel.core.policy.Opening.Condition;
import jandrel.core.policy.Opening.Does;
import jandrel.core.policy.Opening.Field;
import jandrel.core.policy.Opening.Owner;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class OpeningsTest {
    private static final Instant NOON = Instant.parse("2026-11-02T12:00:00Z");
    private static final UUID INA = new UUID(1, 1);
    private static final UUID OLE = new UUID(1, 2);
    private static final Account PORT = new Account(new UUID(2, 1), "Port Line", OLE, null);
    private static final Account QUAY = new Account(new UUID(2, 2), "Quay Works", null, null);
    private static final UUID OPEN = new UUID(3, 1);
    private static final Openings.Known NOTHING_KNOWN = new Openings.Known(Map.of(), Map.of(), Set.of());

    private static Opening rules(Does does, Condition... conditions) {
        return new Opening(
                does,
                List.of(conditions),
                List.of(),
                List.of(),
                Set.of(MeetingItem.Sort.MEETING),
                "talking",
                "fair",
                Owner.ORGANISER,
                "{account}",
                true,
                true,
                true,
                7,
                2);
    }

    private static Condition is(Field field, long value) {
        return new Condition(field, Comparison.IS, value);
    }

    private static DirectorySlice.Builder directory() {
        return DirectorySlice.builder()
                .person("ina@corvane.example", new Insider(INA, "Ina"))
                .person("ole@corvane.example", new Insider(OLE, "Ole"))
                .freeMail("@free.example")
                .accountDomain("@port.example", PORT)
                .accountDomain("@quay.example", QUAY)
                .contact("ida@port.example", new Contact(new UUID(4, 1), "ida", "Ida Moe", PORT, null, List.of(), NOON))
                .contact("loose@else.example", new Contact(new UUID(4, 2), "loose", "Lo", null, null, List.of(), NOON))
                .lead("lead@free.example", new Lead(new UUID(5, 1), "lead", "Lea", null));
    }

    private static Party party(Part part, String address) {
        return new Party(part, EmailAddress.of(address), "");
    }

    private static MeetingItem item(long number, Instant at, String title, Party... parties) {
        return new MeetingItem(
                "m" + number,
                "m" + number,
                null,
                at,
                at.plus(Duration.ofMinutes(30)),
                false,
                "",
                List.of(parties),
                title,
                "",
                "",
                MeetingItem.Privacy.PUBLIC,
                MeetingItem.State.PLANNED,
                0,
                0,
                List.of(),
                MeetingItem.Sort.MEETING,
                MeetingItem.Transparency.OPAQUE);
    }

    private static OpeningMeeting meeting(DirectorySlice slice, UUID linked, MeetingItem item) {
        return OpeningMeeting.of(
                new UUID(9, Long.parseLong(item.uid().substring(1))),
                item,
                slice,
                new OpeningMeeting.Shown(INA, "Calendar", false, true, linked));
    }

    private static OpeningResult only(Opening rules, DirectorySlice slice, String... guests) {
        return new Openings(rules, 0)
                .next(meeting(slice, null, item(1, NOON, "First talk", with(guests))), slice, NOTHING_KNOWN);
    }

    private static Party[] with(String... guests) {
        List<Party> parties = new ArrayList<>(List.of(party(Part.ORGANISER, "ina@corvane.example")));
        for (String guest : guests) {
            parties.add(party(Part.ATTENDEE, guest));
        }
        return parties.toArray(Party[]::new);
    }

    @Test
    void whereAnAccountHasNoneOneIsOpened() {
        DirectorySlice slice = directory().build();
        OpeningResult r = only(rules(Does.OPEN), slice, "ida@port.example", "new@port.example");
        assertThat(r.did()).isEqualTo(Did.OPENED);
        assertThat(r.key()).isEqualTo(PORT.id().toString());
        assertThat(r.owner()).isEqualTo(INA);
        assertThat(r.name()).isEqualTo("Port Line");
        assertThat(r.takingPart()).containsExactly(new UUID(4, 1));
        assertThat(r.newContacts()).extracting(g -> g.address().toString()).containsExactly("new@port.example");
        assertThat(only(rules(Does.JOIN), slice, "ida@port.example").why())
                .isEqualTo("Port Line has no open opportunity to join.");
        assertThat(only(Opening.NONE, slice, "ida@port.example").did()).isEqualTo(Did.NOTHING);
    }

    @Test
    void theOneOpenOneIsJoinedAndOfSeveralNone() {
        Opportunity one = new Opportunity(OPEN, "Forty buoys");
        DirectorySlice single = directory().open(PORT.id(), one).build();
        assertThat(only(rules(Does.JOIN), single, "ida@port.example").opportunity())
                .isEqualTo(OPEN);
        DirectorySlice several = directory()
                .open(PORT.id(), one)
                .open(PORT.id(), new Opportunity(new UUID(3, 2), "Two cranes"))
                .build();
        OpeningResult none = only(rules(Does.OPEN), several, "ida@port.example");
        assertThat(none.did()).isEqualTo(Did.NOTHING);
        assertThat(none.why()).contains("2 open opportunities");
        // which of several it is may be known by how it is linked
        OpeningResult linked = new Openings(rules(Does.OPEN), 0)
                .next(meeting(several, OPEN, item(1, NOON, "x", with("ida@port.example"))), several, NOTHING_KNOWN);
        assertThat(linked.opportunity()).isEqualTo(OPEN);
    }

    @Test
    void aSecondMeetingJoinsWhatTheFirstOpened() {
        DirectorySlice slice = directory().build();
        Openings run = new Openings(rules(Does.OPEN, is(Field.FIRST_MEETING, 1)), 0);
        OpeningResult first =
                run.next(meeting(slice, null, item(1, NOON, "a", with("x@new.example"))), slice, NOTHING_KNOWN);
        OpeningResult second = run.next(
                meeting(slice, null, item(2, NOON.plusSeconds(60), "b", with("y@new.example", "x@new.example"))),
                slice,
                new Openings.Known(
                        Map.of("@new.example", new Openings.First(NOON, new UUID(9, 1))), Map.of(), Set.of()));
        assertThat(first.did()).isEqualTo(Did.OPENED);
        assertThat(first.name()).isEqualTo("New");
        assertThat(second.did()).isEqualTo(Did.JOINED);
        assertThat(second.opportunity()).isNull();
        assertThat(second.key()).isEqualTo(first.key());
    }

    @Test
    void theDayHasABound() {
        DirectorySlice slice = directory().build();
        Openings run = new Openings(rules(Does.OPEN), 1);
        assertThat(run.next(meeting(slice, null, item(1, NOON, "a", with("x@a.example"))), slice, NOTHING_KNOWN)
                        .did())
                .isEqualTo(Did.OPENED);
        OpeningResult late =
                run.next(meeting(slice, null, item(2, NOON, "b", with("x@b.example"))), slice, NOTHING_KNOWN);
        assertThat(late.did()).isEqualTo(Did.WAITS);
        // what is open is joined all the same
        assertThat(run.next(meeting(slice, null, item(3, NOON, "c", with("y@a.example"))), slice, NOTHING_KNOWN)
                        .did())
                .isEqualTo(Did.JOINED);
    }

    @Test
    void whatWasClosedOrTakenBackIsNotOpenedAnew() {
        DirectorySlice slice = directory().build();
        OpeningMeeting m = meeting(slice, null, item(1, NOON, "a", with("ida@port.example")));
        Openings.Known closedAfter = new Openings.Known(Map.of(), Map.of(PORT.id(), NOON.plusSeconds(1)), Set.of());
        assertThat(new Openings(rules(Does.OPEN), 0).next(m, slice, closedAfter).why())
                .contains("was closed after it");
        Openings.Known closedBefore = new Openings.Known(Map.of(), Map.of(PORT.id(), NOON.minusSeconds(1)), Set.of());
        assertThat(new Openings(rules(Does.OPEN), 0)
                        .next(m, slice, closedBefore)
                        .did())
                .isEqualTo(Did.OPENED);
        Openings.Known back =
                new Openings.Known(Map.of(), Map.of(), Set.of(PORT.id().toString()));
        assertThat(new Openings(rules(Does.OPEN), 0).next(m, slice, back).why()).contains("taken back");
    }

    @ParameterizedTest
    @CsvSource({
        "OURS_INVITED,1,true",
        "ACCEPTED,0,false",
        "FIRST_MEETING,1,true",
        "FIRST_MEETING,0,false",
        "KNOWN_ACCOUNT,1,true",
        "KNOWN_ACCOUNT,0,false",
        "GUESTS,2,true",
        "PEOPLE,1,true",
        "MINUTES,30,true",
        "MINUTES,31,false",
        "RECURRING,0,true"
    })
    void eachConditionIsAsked(Field field, long value, boolean opens) {
        OpeningResult r =
                only(rules(Does.OPEN, is(field, value)), directory().build(), "ida@port.example", "b@port.example");
        assertThat(r.did()).isEqualTo(opens ? Did.OPENED : Did.NOTHING);
        assertThat(r.why()).isNotEmpty();
    }

    @Test
    void whoInvitesFromOutsideSaysWhoseMeetingItIs() {
        DirectorySlice slice = directory().build();
        MeetingItem theirs = item(
                1,
                NOON,
                "a",
                party(Part.ORGANISER, "chief@quay.example"),
                party(Part.ACCEPTED, "ole@corvane.example"),
                party(Part.ATTENDEE, "ina@corvane.example"),
                party(Part.ATTENDEE, "ida@port.example"),
                party(Part.ATTENDEE, "b@port.example"));
        OpeningMeeting m = meeting(slice, null, theirs);
        assertThat(m.accepted()).isTrue();
        assertThat(m.organiser()).isNull();
        OpeningResult r = new Openings(rules(Does.OPEN), 0).next(m, slice, NOTHING_KNOWN);
        assertThat(r.account()).isEqualTo("Quay Works");
        assertThat(r.owner()).isEqualTo(OLE);
        assertThat(only(rules(Does.OPEN), slice, "a@new.example", "ida@port.example")
                        .account())
                .as("an account on record goes before one that is not")
                .isEqualTo("Port Line");
    }

    @Test
    void anAddressThatContactsOfTwoAccountsShareStandsForNeither() {
        DirectorySlice slice = directory()
                .contact("desk@port.example", new Contact(new UUID(4, 3), "a", "Desk A", PORT, null, List.of(), NOON))
                .contact("desk@port.example", new Contact(new UUID(4, 4), "b", "Desk B", QUAY, null, List.of(), NOON))
                .build();
        OpeningResult shared = only(rules(Does.OPEN), slice, "desk@port.example");
        assertThat(shared.did()).isEqualTo(Did.NOTHING);
        // nor are they made a contact once more
        OpeningResult beside = only(rules(Does.OPEN), slice, "desk@port.example", "ida@port.example");
        assertThat(beside.account()).isEqualTo("Port Line");
        assertThat(beside.newContacts()).isEmpty();
        assertThat(beside.takingPart()).containsExactly(new UUID(4, 1));
    }

    @Test
    void publicMailMakesLeadsAndNoAccount() {
        DirectorySlice slice = directory().build();
        OpeningResult r = only(rules(Does.OPEN), slice, "max@free.example", "lead@free.example");
        assertThat(r.did()).isEqualTo(Did.LEADS);
        assertThat(r.newContacts()).extracting(g -> g.address().toString()).containsExactly("max@free.example");
        assertThat(only(rules(Does.OPEN), slice, "lead@free.example").why()).contains("belongs to an account");
        assertThat(only(rules(Does.OPEN), slice, "loose@else.example").did()).isEqualTo(Did.NOTHING);
        assertThat(only(rules(Does.OPEN), slice).why()).contains("Nobody from outside");
        Party[] declined = {party(Part.ORGANISER, "ina@corvane.example"), party(Part.DECLINED, "ida@port.example")};
        assertThat(new Openings(rules(Does.OPEN), 0)
                        .next(meeting(slice, null, item(1, NOON, "a", declined)), slice, NOTHING_KNOWN)
                        .why())
                .contains("Nobody from outside");
    }

    @Test
    void whatIsKeptPrivateOrCancelledOpensNothing() {
        DirectorySlice slice = directory().build();
        MeetingItem plain = item(1, NOON, "a", with("ida@port.example"));
        OpeningMeeting kept = OpeningMeeting.of(
                new UUID(9, 1), plain, slice, new OpeningMeeting.Shown(INA, "Calendar", true, true, OPEN));
        assertThat(new Openings(rules(Does.OPEN), 0)
                        .next(kept, slice, NOTHING_KNOWN)
                        .did())
                .isEqualTo(Did.NOTHING);
    }

    @ParameterizedTest
    @ValueSource(strings = {"{account}: {title}", "{title} – {account}", "{title}"})
    void aTitleThatNotAllMayReadIsInNoName(String pattern) {
        Opening r = rules(Does.OPEN);
        Opening named = new Opening(
                r.does(),
                r.conditions(),
                r.words(),
                r.calendars(),
                r.kinds(),
                r.stage(),
                r.channel(),
                r.owner(),
                pattern,
                true,
                true,
                true,
                7,
                2);
        DirectorySlice slice = directory().build();
        MeetingItem plain = item(1, NOON, "Hush {account} {with}", with("ida@port.example"));
        for (boolean all : new boolean[] {true, false}) {
            OpeningMeeting m = OpeningMeeting.of(
                    new UUID(9, 1), plain, slice, new OpeningMeeting.Shown(INA, "Calendar", false, all, null));
            String name = new Openings(named, 0).next(m, slice, NOTHING_KNOWN).name();
            if (all) {
                // what a stranger wrote is no pattern
                assertThat(name).contains("Hush {account} {with}");
            } else {
                assertThat(name).isEqualTo("Port Line");
            }
        }
    }

    @Test
    void wordsCalendarsAndKindsAreAsked() {
        DirectorySlice slice = directory().build();
        Opening r = rules(Does.OPEN);
        Opening asks = new Opening(
                r.does(),
                List.of(),
                List.of("OFFER"),
                List.of("sales"),
                r.kinds(),
                "",
                "",
                r.owner(),
                "{account}",
                true,
                true,
                true,
                7,
                2);
        MeetingItem talk = item(1, NOON, "Our offer", with("ida@port.example"));
        assertThat(new Openings(asks, 0)
                        .next(meeting(slice, null, talk), slice, NOTHING_KNOWN)
                        .why())
                .contains("calendars");
        OpeningMeeting inSales = OpeningMeeting.of(
                new UUID(9, 1), talk, slice, new OpeningMeeting.Shown(INA, "Sales", false, true, null));
        assertThat(new Openings(asks, 0).next(inSales, slice, NOTHING_KNOWN).did())
                .isEqualTo(Did.OPENED);
        OpeningMeeting other = OpeningMeeting.of(
                new UUID(9, 1),
                item(1, NOON, "Lunch", with("ida@port.example")),
                slice,
                new OpeningMeeting.Shown(INA, "Sales", false, true, null));
        assertThat(new Openings(asks, 0).next(other, slice, NOTHING_KNOWN).why())
                .contains("words");
        assertThat(Opening.fits("{account}")).isTrue();
        assertThat(Opening.fits("{owner}")).isFalse();
        assertThat(Opening.fits(" ")).isFalse();
    }
}
