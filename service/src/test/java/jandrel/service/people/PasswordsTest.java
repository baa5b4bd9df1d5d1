package jandrel.service.people;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jandrel.service.kernel.Refusal;
import jandrel.service.kernel.Settings;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.security.crypto.bcrypt.BCryptPasswordEncoder;

class PasswordsTest {
    private final Passwords passwords = passwords();

    private static Passwords passwords() {
        Settings settings = mock();
        when(settings.signIns()).thenReturn(new Settings.SignIns(60, 600, 1));
        return new Passwords(settings);
    }

    @Test
    void aPasswordFitsItsOwnHashAndNoOther() {
        String hash = passwords.hash("buoy-and-tide-26");
        assertThat(hash).startsWith("{argon2id}$argon2id$v=19$m=1024,t=2,p=1$");
        assertThat(passwords.fits("buoy-and-tide-26", hash)).isTrue();
        assertThat(passwords.fits("Buoy-and-tide-26", hash)).isFalse();
        assertThat(passwords.isOld(hash)).isFalse();
    }

    /** Time would tell otherwise who has a sign-in. */
    @Test
    void whoHasNoPasswordCostsWhatOthersDoAndIsNotLetIn() {
        String nobodys = Passwords.nobodys(1_024);
        assertThat(nobodys).hasSameSizeAs(passwords.hash("x")).startsWith("{argon2id}$argon2id$v=19$m=1024,t=2,p=1$");
        assertThat(passwords.isOld(nobodys))
                .as("read, and of the same settings")
                .isFalse();
        assertThat(passwords.fits("nobody has this password", null)).isFalse();
    }

    /** Of before. */
    @Test
    void aHashOfBcryptStillFitsAndIsMadeAnew() {
        String before = new BCryptPasswordEncoder(4).encode("buoy-and-tide-26");
        assertThat(passwords.fits("buoy-and-tide-26", before)).isTrue();
        assertThat(passwords.fits("another-tide-26", before)).isFalse();
        assertThat(passwords.isOld(String.valueOf(before))).isTrue();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "short",
                "password12",
                "Passw0rd!!",
                "1234567890",
                "qwertyuiop",
                "aaaaaaaaaaaaaaaa",
                "vera.holm@corvane.example",
                "veraholm26",
                "jandreljandrel",
                "2026-11-27"
            })
    void whatIsTriedFirstIsRefused(String easy) {
        assertThatThrownBy(() -> passwords.check(easy, "vera.holm@corvane.example", "Vera Holm", "jandrel"))
                .isInstanceOf(Refusal.class);
    }

    @ParameterizedTest
    @ValueSource(strings = {"buoy-and-tide-26", "quay lantern otter mist", "ÅngströmKajutaFjäll", "x7!Kq0-vT2m"})
    void whatIsHardToGuessIsTaken(String good) {
        assertThatCode(() -> passwords.check(good, "vera", "Vera Holm", "jandrel"))
                .doesNotThrowAnyException();
    }

    /** Estimating must not cost the more the longer somebody types. */
    @Test
    void whatIsLongIsRefusedAndNotHashed() {
        assertThatThrownBy(() -> passwords.check("lantern ".repeat(5_000), "vera"))
                .isInstanceOf(Refusal.class);
        assertThat(passwords.fits("lantern ".repeat(500_000), passwords.hash("x")))
                .isFalse();
    }
}
