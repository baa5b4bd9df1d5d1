package jandrel.core.decide;

import static jandrel.core.decide.World.NOON;
import static jandrel.core.decide.World.directory;
import static jandrel.core.decide.World.excluding;
import static jandrel.core.decide.World.mail;
import static jandrel.core.decide.World.meeting;
import static jandrel.core.decide.World.party;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.RecordKind;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.MeetingItem.State;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.UnreadableItem;
import jandrel.core.policy.Direction;
import jandrel.core.policy.Handling;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.policy.Scope;
import jandrel.core.policy.Ties;
import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class DeciderTest {
    private static final SourceContext VANTAGE =
            new SourceContext(World.REP.id(), Instant.parse("2026-01-01T00:00:00Z"));

    private static Decision decide(Item item, DirectorySlice slice) {
        return Decider.decide(item, VANTAGE, Policy.first(), slice);
    }

    private static Decision decide(Item item) {
        return decide(item, directory().build());
    }

    private static List<Rule> rules(Decision d) {
        return d.trail().stream().map(Reason::rule).toList();
    }

    private static List<UUID> records(Decision d) {
        return d.links().stream().map(Link::record).toList();
    }

    @Test
    void mailWithAContactIsLoggedForContactAccountAndTheOnlyOpenOpportunity() {
        Decision d = decide(mail("bram@skarvik.example", "tobias@corvane.example"));
        assertThat(d.verdict()).isEqualTo(Verdict.LOGGED);
        assertThat(records(d)).containsExactlyInAnyOrder(World.BRAM.id(), World.PORT.id(), World.BUOYS.id());
        assertThat(d.insiders()).containsExactly(World.REP.id());
        assertThat(rules(d))
                .containsExactly(
                        Rule.CONTACT_ADDRESS, Rule.ACCOUNT_OF_CONTACT, Rule.ONLY_OPPORTUNITY, Rule.READ_BY_EVERYONE);
    }

    @Test
    void anyAddressOfAContactCountsEvenAtAFreeMailDomain() {
        Decision d = decide(mail("bram.holm@fjordpost.example", "tobias@corvane.example"));
        assertThat(records(d)).contains(World.BRAM.id(), World.PORT.id());
    }

    @Test
    void anAddressWithADetailIsTheContactsWithoutIt() {
        Decision d = decide(mail("bram.holm+buoys@fjordpost.example", "tobias+inbox@corvane.example"));
        assertThat(records(d)).contains(World.BRAM.id(), World.PORT.id());
        assertThat(d.insiders()).containsExactly(World.REP.id());
        assertThat(rules(d)).startsWith(Rule.WITHOUT_DETAIL, Rule.CONTACT_ADDRESS);
        assertThat(Sentences.of(d.trail()).get(0))
                .isEqualTo("bram.holm+buoys@fjordpost.example is delivered to bram.holm@fjordpost.example:"
                        + " what stands after the plus is a detail.");
    }

    @Test
    void anExclusionOfAnAddressCoversItsDetails() {
        Decision d = decide(
                mail("bram+buoys@skarvik.example", "tobias@corvane.example"),
                excluding("bram@skarvik.example").build());
        assertThat(rules(d)).containsExactly(Rule.EXCLUDED);
    }

    @Test
    void aContactsOwnAddressWithADetailComesFirst() {
        Decision d = decide(
                mail("office+berit@kvist.example", "tobias@corvane.example"),
                directory().contact("office+berit@kvist.example", World.BERIT).build());
        assertThat(rules(d)).startsWith(Rule.CONTACT_ADDRESS);
        assertThat(records(d)).contains(World.BERIT.id()).doesNotContain(World.ODD.id());
    }

    @Test
    void aStrangerAtAFreeMailDomainWaits() {
        Decision d = decide(mail("someone@fjordpost.example", "tobias@corvane.example"));
        assertThat(d.verdict()).isEqualTo(Verdict.WAITING);
        assertThat(rules(d)).containsExactly(Rule.FREE_MAIL, Rule.NOBODY_MATCHED);
    }

    @Test
    void aStrangerBelowAnAccountsDomainIsLinkedToTheAccountAlone() {
        Decision d = decide(mail("gate@quay.skarvik.example", "tobias@corvane.example"));
        assertThat(d.links()).extracting(Link::evidence).containsExactly(Link.Evidence.DOMAIN, Link.Evidence.ONLY_OPEN);
        assertThat(records(d)).containsExactly(World.PORT.id(), World.BUOYS.id());
    }

    @Test
    void severalOpenOpportunitiesLeaveThePickToAPerson() {
        Decision d = decide(mail("someone@hebra.example", "tobias@corvane.example"));
        assertThat(records(d)).containsExactly(World.FARM.id());
        assertThat(rules(d)).contains(Rule.SEVERAL_OPPORTUNITIES);
    }

    @Test
    void aContactWithoutAnAccountIsEnough() {
        Decision d = decide(mail("una@rask.example", "tobias@corvane.example"));
        assertThat(records(d)).containsExactly(World.LONE.id());
    }

    @Test
    void ofContactsThatShareAnAddressTheOneWhoseAccountsOwnerIsOnIt() {
        Decision d = decide(mail("office@kvist.example", "tobias@corvane.example"));
        assertThat(records(d)).contains(World.ODD.id()).doesNotContain(World.BERIT.id());
        assertThat(rules(d)).contains(Rule.SHARED_ADDRESS_OWNER);
    }

    @Test
    void withoutAnOwnerOnItTheMostRecentlyActive() {
        Decision d = decide(mail("office@kvist.example", "stranger@corvane.example"));
        assertThat(records(d)).contains(World.BERIT.id()).doesNotContain(World.ODD.id());
        assertThat(d.trail().get(0).fact("active")).isEqualTo("2026-03-01");
        assertThat(rules(d)).contains(Rule.SHARED_ADDRESS_RECENT);
    }

    @Test
    void whatIsAmongOurselvesIsLeftOut() {
        assertThat(rules(decide(mail("tobias@corvane.example", "maren@corvane.example", "yard@corvane.example"))))
                .containsExactly(Rule.INSIDE_ONLY);
        assertThat(rules(decide(mail("tobias@corvane.example", "tobias@corvane.example"))))
                .containsExactly(Rule.INSIDE_ONLY);
        assertThat(rules(decide(
                        meeting(Privacy.PRIVATE, State.PLANNED, party(Part.ORGANISER, "tobias@corvane.example")))))
                .containsExactly(Rule.ALONE);
    }

    @ParameterizedTest
    @EnumSource(value = Nature.Kind.class, mode = EnumSource.Mode.EXCLUDE, names = "ORDINARY")
    void mailThatNoPersonWroteIsLeftOutWithItsEvidence(Nature.Kind kind) {
        Decision d = decide(mail(new Nature(kind, "X: y"), NOON, "bram@skarvik.example", "tobias@corvane.example"));
        assertThat(d.verdict()).isEqualTo(Verdict.LEFT_OUT);
        assertThat(Sentences.of(d.trail())).singleElement().asString().contains("X: y");
        assertThat(d.links()).isEmpty();
    }

    @Test
    void anExclusionBeatsAMatchWhoeverItCovers() {
        for (String key : List.of("bram@skarvik.example", "@skarvik.example", "@corvane.example")) {
            Decision d = decide(
                    mail("bram@skarvik.example", "tobias@corvane.example"),
                    excluding(key).build());
            assertThat(d.verdict()).isEqualTo(Verdict.LEFT_OUT);
            assertThat(d.exclusion()).isEqualTo(World.id(40));
            assertThat(Sentences.of(d.trail()).get(0)).contains("supplier");
        }
    }

    @Test
    void anExclusionOfADomainTakesInItsSubdomainsAndNoLookalike() {
        DirectorySlice slice = excluding("@kettingwerk.example").build();
        assertThat(decide(mail("a@sales.kettingwerk.example", "bram@skarvik.example"), slice)
                        .verdict())
                .isEqualTo(Verdict.LEFT_OUT);
        assertThat(decide(mail("a@notkettingwerk.example", "bram@skarvik.example"), slice)
                        .verdict())
                .isEqualTo(Verdict.LOGGED);
    }

    @Test
    void aPrivateMeetingIsItsOwnersWhateverThePolicySays() {
        Decision d = decide(meeting(
                Privacy.CONFIDENTIAL,
                State.PLANNED,
                party(Part.ORGANISER, "tobias@corvane.example"),
                party(Part.ATTENDEE, "bram@skarvik.example")));
        assertThat(d.verdict()).isEqualTo(Verdict.LOGGED);
        assertThat(d.sharing()).isEqualTo(Sharing.OWNER);
    }

    @Test
    void roomsAreNobody() {
        Decision d = decide(meeting(
                Privacy.PUBLIC,
                State.PLANNED,
                party(Part.ORGANISER, "tobias@corvane.example"),
                party(Part.ROOM, "bram@skarvik.example")));
        assertThat(d.verdict()).isEqualTo(Verdict.LEFT_OUT);
    }

    @Test
    void aCancelledMeetingIsLeftOut() {
        assertThat(rules(
                        decide(meeting(Privacy.PUBLIC, State.CANCELLED, party(Part.ATTENDEE, "bram@skarvik.example")))))
                .containsExactly(Rule.CANCELLED);
    }

    @Test
    void whatIsFromBeforeCaptureBeginsIsLeftOut() {
        assertThat(rules(decide(mail(Nature.ORDINARY, VANTAGE.since().minusSeconds(1), "bram@skarvik.example"))))
                .containsExactly(Rule.TOO_OLD);
        assertThat(decide(mail(Nature.ORDINARY, VANTAGE.since(), "bram@skarvik.example"))
                        .verdict())
                .isEqualTo(Verdict.LOGGED);
    }

    private static Decision under(Policy policy, Item item) {
        return Decider.decide(item, VANTAGE, policy, directory().build());
    }

    @Test
    void mailMayBeCapturedOneWayOnly() {
        Policy sentOnly = Policy.first().with(new Scope(false, true, Direction.IN, Direction.NONE, 90, 60));
        Policy receivedOnly = Policy.first().with(new Scope(true, false, Direction.IN, Direction.NONE, 90, 60));
        MailItem in = mail("bram@skarvik.example", "tobias@corvane.example");
        MailItem out = mail("tobias@corvane.example", "bram@skarvik.example");
        assertThat(rules(under(sentOnly, in))).containsExactly(Rule.RECEIVED_OFF);
        assertThat(under(sentOnly, out).verdict()).isEqualTo(Verdict.LOGGED);
        assertThat(rules(under(receivedOnly, out))).containsExactly(Rule.SENT_OFF);
        assertThat(under(receivedOnly, in).verdict()).isEqualTo(Verdict.LOGGED);
    }

    @Test
    void nothingIsCapturedFromTheDayOnWhichCoverEnds() {
        SourceContext ended = new SourceContext(World.REP.id(), null, VANTAGE.since(), World.NOON, Sharing.EVERYONE);
        MailItem at = mail("bram@skarvik.example");
        MailItem before = mail(Nature.ORDINARY, World.NOON.minusSeconds(1), "bram@skarvik.example");
        assertThat(rules(Decider.decide(at, ended, Policy.first(), directory().build())))
                .containsExactly(Rule.COVER_ENDED);
        assertThat(Decider.decide(before, ended, Policy.first(), directory().build())
                        .verdict())
                .isEqualTo(Verdict.LOGGED);
    }

    @Test
    void whatIsCancelledOrDeletedIsKeptMarkedOrRemoved() {
        Party guest = World.party(Party.Part.ATTENDEE, "bram@skarvik.example");
        for (Handling.Vanished what : Handling.Vanished.values()) {
            Policy policy = Policy.first()
                    .with(new Handling(
                            Handling.Private.OUTLINE, what, what, what, Handling.Series.EACH_OCCURRENCE, ""));
            Decision cancelled = under(policy, meeting(Privacy.PUBLIC, State.CANCELLED, guest));
            Decision gone = Decider.decide(
                    mail("bram@skarvik.example"),
                    VANTAGE.asGone(true),
                    policy,
                    directory().build());
            switch (what) {
                case REMOVE -> {
                    assertThat(rules(cancelled)).containsExactly(Rule.CANCELLED);
                    assertThat(rules(gone)).containsExactly(Rule.GONE);
                }
                case MARK -> {
                    assertThat(rules(cancelled)).contains(Rule.CANCELLED_MARKED);
                    assertThat(rules(gone)).contains(Rule.GONE_MARKED);
                }
                case KEEP -> {
                    assertThat(rules(cancelled)).contains(Rule.CANCELLED_KEPT);
                    assertThat(rules(gone)).contains(Rule.GONE_KEPT);
                }
            }
        }
    }

    @Test
    void privateAndRecurringMeetingsCanBeLeftOut() {
        Party guest = World.party(Party.Part.ATTENDEE, "bram@skarvik.example");
        Policy strict = Policy.first()
                .with(new Handling(
                        Handling.Private.LEAVE_OUT,
                        Handling.Vanished.REMOVE,
                        Handling.Vanished.REMOVE,
                        Handling.Vanished.KEEP,
                        Handling.Series.LEAVE_OUT,
                        ""));
        assertThat(rules(under(strict, meeting(Privacy.PRIVATE, State.PLANNED, guest))))
                .containsExactly(Rule.PRIVATE_OFF);
        assertThat(under(strict, meeting(Privacy.PUBLIC, State.PLANNED, guest)).verdict())
                .isEqualTo(Verdict.LOGGED);
    }

    @Test
    void theTieBreakIsThePolicys() {
        MailItem shared = mail("office@kvist.example");
        assertThat(under(Policy.first().with(new Ties(Ties.SAFE.kinds(), Ties.TieBreak.ALL)), shared)
                        .links())
                .extracting(Link::record)
                .contains(World.ODD.id(), World.BERIT.id());
        assertThat(under(Policy.first().with(new Ties(Ties.SAFE.kinds(), Ties.TieBreak.FIRST)), shared)
                        .links())
                .extracting(Link::record)
                .contains(World.ODD.id())
                .doesNotContain(World.BERIT.id());
        assertThat(under(Policy.first().with(new Ties(Ties.SAFE.kinds(), Ties.TieBreak.OLDEST)), shared)
                        .links())
                .extracting(Link::record)
                .contains(World.BERIT.id())
                .doesNotContain(World.ODD.id());
        assertThat(under(Policy.first().with(new Ties(Set.of(RecordKind.ACCOUNT), Ties.TieBreak.MOST_RECENT)), shared)
                        .links())
                .extracting(Link::kind)
                .containsExactly(RecordKind.ACCOUNT);
    }

    @Test
    void thePersonsOwnChoiceOnlyNarrows() {
        SourceContext shy = new SourceContext(World.REP.id(), null, VANTAGE.since(), null, Sharing.OWNER);
        Decision narrowed = Decider.decide(
                mail("bram@skarvik.example"), shy, Policy.first(), directory().build());
        assertThat(narrowed.sharing()).isEqualTo(Sharing.OWNER);
        assertThat(rules(narrowed)).contains(Rule.OWN_CHOICE_OWNER);
        assertThat(Decider.decide(
                                mail("bram@skarvik.example"),
                                VANTAGE,
                                Policy.first().with(Sharing.THOSE_ON_IT),
                                directory().build())
                        .sharing())
                .isEqualTo(Sharing.THOSE_ON_IT);
    }

    @Test
    void thePolicySwitchesKindsOff() {
        Policy off = Policy.first().with(new Scope(false, false, Direction.NONE, Direction.NONE, 90, 60));
        assertThat(rules(Decider.decide(
                        mail("bram@skarvik.example"), VANTAGE, off, directory().build())))
                .containsExactly(Rule.MAIL_OFF);
        assertThat(rules(Decider.decide(
                        meeting(Privacy.PUBLIC, State.PLANNED),
                        VANTAGE,
                        off,
                        directory().build())))
                .containsExactly(Rule.MEETINGS_OFF);
    }

    @Test
    void whatCannotBeReadKeepsItsReason() {
        Decision d = decide(new UnreadableItem("unreadable:1", NOON, "no header"));
        assertThat(d.verdict()).isEqualTo(Verdict.UNREADABLE);
        assertThat(Sentences.of(d.trail())).containsExactly("It could not be read: no header.");
    }

    @Test
    void theOrderOfPeopleChangesNoLink() {
        Decision one = decide(mail("bram@skarvik.example", "someone@hebra.example", "tobias@corvane.example"));
        Decision other = decide(mail("tobias@corvane.example", "someone@hebra.example", "bram@skarvik.example"));
        assertThat(one.links()).isEqualTo(other.links());
    }

    @ParameterizedTest
    @EnumSource(Rule.class)
    void everyRuleReadsAsASentenceAndNamesNothingThatIsMissing(Rule rule) {
        assertThat(Sentences.of(Reason.of(rule)))
                .endsWith(".")
                .doesNotContain("null")
                .doesNotContain("_");
        assertThat(Sentences.heading(rule)).isNotBlank().doesNotContain("_");
    }
}
