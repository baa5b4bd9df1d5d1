package jandrel.core.timeline;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Decider;
import jandrel.core.decide.Decision;
import jandrel.core.decide.SourceContext;
import jandrel.core.decide.Verdict;
import jandrel.core.decide.World;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Insider;
import jandrel.core.item.Item;
import jandrel.core.item.MailItem;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.MeetingItem.Privacy;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import jandrel.core.item.Sketch;
import jandrel.core.policy.Policy;
import jandrel.core.policy.Policy.Sharing;
import jandrel.core.visibility.Readers;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/**
 * Whatever set of true and forged copies there is, in whatever order: nobody reads of a copy that they did not bring more than its own
 * readers may, and nobody opens, closes, changes or doubles what others brought. A failure prints its seed.
 */
class CopiesTest {
    private static final UUID KEY = World.id(500);
    private static final int PEOPLE = 6;
    private static final int EVE = 5;
    private static final String TEXT =
            "The third buoy drifted again last night, so the price for the whole channel has to be looked at once more.";

    private static UUID person(int n) {
        return World.id(600 + n);
    }

    private static String address(int n) {
        return n < PEOPLE ? "p" + n + "@corvane.example" : "bram@skarvik.example";
    }

    private static DirectorySlice directory() {
        DirectorySlice.Builder all = World.directory();
        for (int n = 0; n < PEOPLE; n++) {
            all.person(address(n), new Insider(person(n), "P" + n));
        }
        return all.build();
    }

    private static final DirectorySlice DIRECTORY = directory();

    private record Said(List<Party> parties, String subject, String text, Privacy privacy, int sequence) {
        Item item(boolean meeting) {
            if (!meeting) {
                return new MailItem("mail:1", World.NOON, true, parties, subject, Nature.ORDINARY)
                        .saying(Sketch.of(text));
            }
            MeetingItem m = World.meeting(privacy, MeetingItem.State.PLANNED, parties.toArray(Party[]::new));
            return new MeetingItem(
                    m.identity(),
                    m.uid(),
                    null,
                    m.at(),
                    m.ends(),
                    false,
                    "",
                    m.parties(),
                    subject,
                    "",
                    "",
                    privacy,
                    m.state(),
                    sequence,
                    sequence,
                    List.of(),
                    m.sort(),
                    m.transparency());
        }
    }

    private static Optional<Logged> copy(int owner, Sharing sharing, Said said, boolean meeting, int number) {
        Item item = said.item(meeting);
        Decision decision = Decider.decide(
                item, new SourceContext(person(owner), null, Instant.EPOCH, null, sharing), Policy.first(), DIRECTORY);
        UUID content = UUID.nameUUIDFromBytes(said.text().getBytes(java.nio.charset.StandardCharsets.UTF_8));
        return decision.verdict() == Verdict.LOGGED
                ? Optional.of(new Logged(World.id(10_000 + number), person(owner), item, content, decision))
                : Optional.empty();
    }

    private static List<Party> parties(boolean meeting, int author, Set<Integer> others) {
        List<Party> parties = new ArrayList<>();
        parties.add(new Party(meeting ? Part.ORGANISER : Part.FROM, EmailAddress.of(address(author)), ""));
        others.forEach(o -> parties.add(new Party(meeting ? Part.ATTENDEE : Part.TO, EmailAddress.of(address(o)), "")));
        return parties;
    }

    private static final class Story {
        final Random random;
        final boolean meeting;
        final int author;
        final Set<Integer> named = new LinkedHashSet<>();
        final List<Logged> truth = new ArrayList<>();
        final List<Logged> forged = new ArrayList<>();
        final Map<UUID, Ruling> rulings = new HashMap<>();

        Story(long seed) {
            random = new Random(seed);
            meeting = random.nextBoolean();
            author = random.nextInt(3) == 0 ? PEOPLE : random.nextInt(EVE);
            for (int n = 0; n < EVE; n++) {
                if (n != author && random.nextBoolean()) {
                    named.add(n);
                }
            }
            if (author != PEOPLE) {
                named.add(PEOPLE);
            }
            Privacy privacy = random.nextInt(3) == 0 ? Privacy.PRIVATE : Privacy.PUBLIC;
            for (int n = 0; n < EVE; n++) {
                boolean takesPart = n == author || named.contains(n);
                if (takesPart && random.nextInt(4) > 0 || !takesPart && random.nextInt(6) == 0) {
                    copy(n, sharing(), new Said(parties(meeting, author, named), "Truth", TEXT, privacy, 1), meeting, n)
                            .ifPresent(truth::add);
                }
            }
            for (int n = 0; n < 1 + random.nextInt(3); n++) {
                forge(n);
            }
            ruling(random.nextInt(PEOPLE));
            ruling(EVE);
        }

        private Sharing sharing() {
            return Sharing.values()[random.nextInt(4)];
        }

        /** She knows the name, the author and who is on it, and writes whatever she likes; but what it says she does not know. */
        private void forge(int n) {
            Set<Integer> claimed = new LinkedHashSet<>(named);
            if (random.nextBoolean()) {
                claimed.add(EVE);
            }
            claimed.add(PEOPLE);
            int claims = random.nextInt(3) == 0 ? EVE : author;
            claimed.remove(claims);
            copy(
                            EVE,
                            sharing(),
                            new Said(
                                    parties(meeting, claims, claimed),
                                    random.nextBoolean() ? "Forged" : "Truth",
                                    meeting ? TEXT : "Quite another text, which she made up to stand in its place " + n,
                                    Privacy.PUBLIC,
                                    random.nextInt(10)),
                            meeting,
                            100 + n)
                    .filter(c -> truth.stream().noneMatch(t -> says(t).equals(says(c))))
                    .ifPresent(forged::add);
        }

        private static Object says(Logged copy) {
            return copy.item() instanceof MeetingItem m ? Copies.says(m) : copy.item();
        }

        private void ruling(int n) {
            if (random.nextInt(3) > 0) {
                rulings.put(
                        person(n),
                        new Ruling(random.nextBoolean(), Set.of(person(random.nextInt(PEOPLE))), "P" + n, "somebody"));
            }
        }

        List<Logged> all() {
            List<Logged> all = new ArrayList<>(truth);
            all.addAll(forged);
            return all;
        }
    }

    private static IntStream seeds() {
        String one = System.getProperty("seed");
        return one == null ? IntStream.range(0, 5_000) : IntStream.of(Integer.parseInt(one));
    }

    @Test
    void aForgedCopyGivesNobodyAnythingAndTakesNothing() {
        seeds().forEach(CopiesTest::takesNothing);
    }

    @Test
    void nobodyReadsMoreOfACopyThanItsOwnReadersMay() {
        seeds().forEach(CopiesTest::readsNoMore);
    }

    @Test
    void everybodyGetsOneFaceAndTheOrderChangesNothing() {
        seeds().forEach(CopiesTest::converges);
    }

    private static void takesNothing(int seed) {
        Story story = new Story(seed);
        List<Activity> before = ActivityMerge.combine(KEY, story.truth, story.rulings);
        List<Activity> after = ActivityMerge.combine(KEY, story.all(), story.rulings);
        assertThat(after.stream().map(CopiesTest::withoutId).toList())
                .as("seed %d", seed)
                .containsAll(before.stream().map(CopiesTest::withoutId).toList());
        Set<UUID> forged = story.forged.stream().map(Logged::copy).collect(Collectors.toSet());
        assertThat(after.stream()
                        .filter(a -> a.faces().stream()
                                .anyMatch(f -> f.copies().stream().noneMatch(forged::contains)))
                        .count())
                .as("seed %d: nothing true is doubled", seed)
                .isEqualTo(before.size());
    }

    private static Activity withoutId(Activity a) {
        return new Activity(KEY, a.faces(), a.links(), a.owners(), a.insiders());
    }

    private static void readsNoMore(int seed) {
        Story story = new Story(seed);
        Map<UUID, Logged> copies = story.all().stream().collect(Collectors.toMap(Logged::copy, c -> c));
        for (Activity activity : ActivityMerge.combine(KEY, story.all(), story.rulings)) {
            for (int n = 0; n < PEOPLE; n++) {
                UUID viewer = person(n);
                Face face = activity.faceFor(Set.of(viewer));
                if (face.readers().has(Set.of(viewer))) {
                    assertThat(face.copies())
                            .as("seed %d, P%d", seed, n)
                            .anyMatch(c -> mayRead(viewer, copies.get(c), story.rulings));
                }
            }
        }
    }

    /** By what the copy itself says, and its own owner lets be read. */
    private static boolean mayRead(UUID viewer, Logged copy, Map<UUID, Ruling> rulings) {
        Ruling own = rulings.get(copy.person());
        Readers readers = ActivityMerge.readers(
                copy.decision().sharing(),
                Set.of(copy.person()),
                copy.decision().insiders(),
                Set.of());
        return readers.has(Set.of(viewer)) || own != null && own.readers().contains(viewer);
    }

    private static void converges(int seed) {
        Story story = new Story(seed);
        List<Logged> all = story.all();
        List<Activity> expected = ActivityMerge.combine(KEY, all, story.rulings);
        for (int i = 0; i < 5; i++) {
            Collections.shuffle(all, story.random);
            assertThat(ActivityMerge.combine(KEY, all, story.rulings))
                    .as("seed %d", seed)
                    .isEqualTo(expected);
        }
        Set<UUID> seen = new java.util.HashSet<>();
        expected.forEach(a -> a.faces()
                .forEach(f -> f.copies()
                        .forEach(
                                c -> assertThat(seen.add(c)).as("seed %d", seed).isTrue())));
        assertThat(seen).hasSize(all.size());
        assertThat(expected)
                .as("seed %d", seed)
                .allSatisfy(a -> a.faces()
                        .forEach(f -> assertThat(Collections.disjoint(f.mine(), f.elsewhere()))
                                .isTrue()));
    }

    @Test
    void theSameMessageInFiveMailboxesIsOneHoweverListsAndServersChangeIt() {
        List<Party> parties = parties(false, 0, Set.of(1, PEOPLE));
        String[] texts = {
            TEXT,
            TEXT.replace(". ", ".\r\n") + "\r\n",
            TEXT.replace(" ", "\n"),
            TEXT + "\n____________\nharbour mailing list\nharbour@lists.example",
            TEXT + "\n-- \nThis message was checked for viruses."
        };
        String[] subjects = {"Buoys", "Buoys", "Buoys", "[harbour] Buoys", "[EXT] Buoys"};
        List<Logged> copies = new ArrayList<>();
        for (int n = 0; n < 5; n++) {
            copy(n, Sharing.EVERYONE, new Said(parties, subjects[n], texts[n], Privacy.PUBLIC, 0), false, n)
                    .ifPresent(copies::add);
        }
        assertThat(copies).hasSize(5);
        assertThat(ActivityMerge.combine(KEY, copies, Map.of())).hasSize(1);
    }

    @Test
    void theSameMeetingInFiveCalendarsInFiveVersionsIsOne() {
        List<Party> parties = parties(true, 0, Set.of(1, 2, 3, 4, PEOPLE));
        List<Logged> copies = new ArrayList<>();
        for (int n = 0; n < 5; n++) {
            copy(n, Sharing.EVERYONE, new Said(parties, "Version " + n, "", Privacy.PUBLIC, n), true, n)
                    .ifPresent(copies::add);
        }
        List<Activity> activities = ActivityMerge.combine(KEY, copies, Map.of());
        assertThat(activities).hasSize(1);
        assertThat(activities.get(0).item().subject())
                .as("the organiser's own copy")
                .isEqualTo("Version 0");
        assertThat(activities.get(0).faceFor(Set.of(person(3))).item().subject())
                .as("one's own copy")
                .isEqualTo("Version 3");
    }

    @Test
    void thousandsOfCopiesCostNoMoreThanTheyAreMany() {
        List<Logged> copies = new ArrayList<>();
        for (int n = 0; n < 20_000; n++) {
            copy(
                            n % PEOPLE,
                            Sharing.EVERYONE,
                            new Said(parties(false, PEOPLE, Set.of(1)), "S", "text " + n, Privacy.PUBLIC, 0),
                            false,
                            n)
                    .ifPresent(copies::add);
        }
        assertThat(org.junit.jupiter.api.Assertions.assertTimeoutPreemptively(
                        java.time.Duration.ofSeconds(30), () -> ActivityMerge.combine(KEY, copies, Map.of())))
                .isNotEmpty();
    }
}
