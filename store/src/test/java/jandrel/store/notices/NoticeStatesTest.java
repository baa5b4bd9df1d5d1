package jandrel.store.notices;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.notice.NoticeChoice;
import jandrel.store.StoreContext;
import jandrel.store.capture.Scene;
import jandrel.store.people.SignIns;
import jandrel.store.people.SignIns.SignIn;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.UUID;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

class NoticeStatesTest {
    private static final Instant NOON = Scene.NOON;
    private static StoreContext store;
    private static NoticeStates states;
    private UUID one;
    private UUID other;

    @BeforeAll
    static void open() throws SQLException {
        store = new StoreContext("test_notices");
        states = store.get(NoticeStates.class);
    }

    @AfterAll
    static void close() {
        store.close();
    }

    @BeforeEach
    void twoSignIns() throws Exception {
        store.run("TRUNCATE sign_in CASCADE");
        Scene scene = Scene.anew(store).people(1);
        one = signIn("one", scene.person(0));
        other = signIn("other", null);
    }

    private static UUID signIn(String login, @Nullable UUID person) {
        SignIn added = SignIn.fresh(login, login, "REP", person, NOON);
        store.get(SignIns.class).add(added);
        return added.id();
    }

    private static String state(UUID signIn, String key) {
        return states.states(signIn, new String[] {key}).stream()
                .map(s -> (s.readAt() == null ? "-" : "read") + " " + (s.snoozedUntil() == null ? "-" : "put off"))
                .findFirst()
                .orElse("none");
    }

    @Test
    void whatOneReadsIsUnreadForTheOther() {
        String[] keys = {"a", "b"};
        states.mark(one, keys, NOON, null, NOON);
        assertThat(List.of(state(one, "a"), state(one, "b"), state(one, "c"), state(other, "a")))
                .containsExactly("read -", "read -", "none", "none");
        states.mark(one, new String[] {"a"}, null, NOON.plusSeconds(300), NOON);
        assertThat(state(one, "a")).isEqualTo("- put off");
        states.mark(one, new String[] {"a"}, null, null, NOON);
        assertThat(state(one, "a")).isEqualTo("- -");
        states.forget(NOON.plusSeconds(1));
        assertThat(state(one, "b")).isEqualTo("none");
    }

    /** Whatever was read or put off needs no mail; what is put off does again afterwards. */
    @Test
    void oneMailGoesOutHoweverManyAskAtOnce() throws Exception {
        ExecutorService nodes = Executors.newFixedThreadPool(4);
        List<Callable<Integer>> asks = List.of(
                () -> states.claimMail(one, "due", NOON),
                () -> states.claimMail(one, "due", NOON),
                () -> states.claimMail(one, "due", NOON),
                () -> states.claimMail(one, "due", NOON));
        int sent = 0;
        for (Future<Integer> asked : nodes.invokeAll(asks)) {
            sent += asked.get();
        }
        nodes.shutdown();
        assertThat(sent).isEqualTo(1);
        assertThat(states.claimMail(other, "due", NOON)).isEqualTo(1);
        states.mark(one, new String[] {"read"}, NOON, null, NOON);
        assertThat(states.claimMail(one, "read", NOON)).isZero();
        states.mark(one, new String[] {"later"}, null, NOON.plusSeconds(60), NOON);
        assertThat(states.claimMail(one, "later", NOON)).isZero();
        assertThat(states.claimMail(one, "later", NOON.plusSeconds(60))).isEqualTo(1);
    }

    @Test
    void onlyASignInOfAPersonThatWantsItGetsMail() {
        NoticeChoice usual = NoticeChoice.USUAL;
        NoticeStates.Chosen mails =
                NoticeStates.Chosen.of(new NoticeChoice(true, true, 30, true, false, usual.dailyAt(), usual.zone()));
        assertThat(states.mailed()).isEmpty();
        states.choose(one, NoticeStates.Chosen.of(usual));
        assertThat(states.mailed()).isEmpty();
        states.choose(one, mails);
        states.choose(other, mails);
        assertThat(states.mailed()).containsExactly(one);
        assertThat(states.chosen(one)).hasValue(mails);
    }
}
