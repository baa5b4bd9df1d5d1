package jandrel.service.connections;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import jandrel.service.kernel.Settings;
import jandrel.service.kernel.Settings.Administrator;
import jandrel.service.kernel.Settings.Smtp;
import jandrel.sources.SourceTrouble;
import jandrel.store.connections.Connections;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class EgressPolicyTest {
    private final Connections connections = mock();
    private final EgressPolicy reach = new EgressPolicy(
            connections,
            new Settings(
                    Path.of("key"),
                    "",
                    Duration.ofMinutes(5),
                    Duration.ofSeconds(60),
                    false,
                    "http://127.0.0.1",
                    List.of(),
                    List.of("192.0.2.7"),
                    true,
                    "",
                    new Smtp("", 25, true, "", "", "", ""),
                    new jandrel.service.kernel.Settings.HandOver("", 0, "", "", "", List.of(), List.of(), 0, 0),
                    new jandrel.service.kernel.Settings.SignIns(60, 600, 11),
                    new jandrel.service.kernel.Settings.Quotas(1, 1),
                    new Administrator("admin", "")));

    private void isRefused(String address) {
        assertThatThrownBy(() -> reach.check(URI.create(address)))
                .isInstanceOfSatisfying(
                        SourceTrouble.class, t -> assertThat(t.kind()).isEqualTo(SourceTrouble.Kind.REFUSED));
    }

    @ParameterizedTest
    @ValueSource(strings = {"http://192.0.2.7/token", "ftp://192.0.2.7/", "https:relative", "file:///etc/passwd"})
    void whatIsNotHttpsIsRefusedEvenAtAnAllowedHost(String address) {
        isRefused(address);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "https://127.0.0.1/token",
                "https://169.254.169.254/latest",
                "https://[::1]:8443/",
                "https://10.0.0.7/"
            })
    void whatLeadsInwardIsRefused(String address) {
        isRefused(address);
    }

    @Test
    void whatAnAdministratorAllowsCountsFromThenOn() {
        URI address = URI.create("https://10.0.0.7/token");
        isRefused(address.toString());
        when(connections.allowed())
                .thenReturn(List.of(new Connections.Allowed("10.0.0.7", "admin", java.time.Instant.EPOCH)));
        assertThatCode(() -> reach.check(address)).doesNotThrowAnyException();
    }

    @Test
    void noAddressAtAllIsRefused() {
        assertThatThrownBy(() -> EgressPolicy.overTls(null)).isInstanceOf(SourceTrouble.class);
    }
}
