package jandrel.service.people;

import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import org.junit.jupiter.api.Test;

class SignInPaceTest {
    private static SignInPace pace(int fromOneAddress, int inAll) {
        Settings settings = mock();
        when(settings.signIns()).thenReturn(new Settings.SignIns(fromOneAddress, inAll, 19));
        return new SignInPace(settings);
    }

    @Test
    void whoGuessesFromOneAddressIsStoppedAndNobodyElse() {
        SignInPace pace = pace(3, 100);
        for (int i = 0; i < 3; i++) {
            pace.attempt("10.0.0.1");
        }
        assertThatThrownBy(() -> pace.attempt("10.0.0.1")).isInstanceOf(Refusal.class);
        assertThatCode(() -> pace.attempt("10.0.0.2")).doesNotThrowAnyException();
    }

    @Test
    void whoSignsInHasSpentNothing() {
        SignInPace pace = pace(2, 2);
        assertThatCode(() -> {
                    for (int i = 0; i < 50; i++) {
                        pace.attempt("10.0.0.1").succeeded();
                    }
                })
                .doesNotThrowAnyException();
    }

    @Test
    void guessesFromManyAddressesAreStoppedTogether() {
        SignInPace pace = pace(10, 4);
        for (int i = 0; i < 4; i++) {
            pace.attempt("10.0.0." + i);
        }
        assertThatThrownBy(() -> pace.attempt("10.0.0.9")).isInstanceOf(Refusal.class);
    }

    @Test
    void whatIsStoppedForAllIsNotCountedAgainstItsAddress() {
        SignInPace pace = pace(2, 1);
        SignInPace.Attempt first = pace.attempt("10.0.0.1");
        for (int i = 0; i < 5; i++) {
            assertThatThrownBy(() -> pace.attempt("10.0.0.2")).isInstanceOf(Refusal.class);
        }
        first.succeeded();
        assertThatCode(() -> pace.attempt("10.0.0.2")).doesNotThrowAnyException();
    }
}
