package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.net.InetAddress;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class InwardTest {
    @ParameterizedTest
    @CsvSource({
        "127.0.0.1, true",
        "10.0.0.1, true",
        "172.16.4.4, true",
        "172.32.0.1, false",
        "192.168.1.1, true",
        "169.254.169.254, true",
        "100.64.0.1, true",
        "100.128.0.1, false",
        "0.0.0.0, true",
        "198.18.0.1, true",
        "224.0.0.1, true",
        "255.255.255.255, true",
        "8.8.4.4, false",
        "::1, true",
        "fe80::1, true",
        "fc00::1, true",
        "fd12:3456::1, true",
        "::ffff:10.0.0.1, true",
        "64:ff9b::a00:1, true",
        "64:ff9b::808:404, false",
        "2002:a00:1::1, true",
        "2001:db8::1, false"
    })
    void addressesThatAreNotPublicLeadInward(String address, boolean inward) throws Exception {
        assertThat(Inward.isInward(InetAddress.getByName(address))).as(address).isEqualTo(inward);
    }

    @Test
    void whatAnAdministratorAllowedMayBeReached() {
        Inward inward = new Inward(List.of("127.0.0.1", "Mail.Inside.example"));
        assertThatCode(() -> inward.check("127.0.0.1")).doesNotThrowAnyException();
        assertThatCode(() -> inward.check("mail.inside.example")).doesNotThrowAnyException();
        assertThatThrownBy(() -> inward.check("localhost"))
                .isInstanceOfSatisfying(
                        SourceTrouble.class, t -> assertThat(t.kind()).isEqualTo(SourceTrouble.Kind.REFUSED));
    }
}
