package jandrel.core.address;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class AddressesTest {
    @ParameterizedTest
    @CsvSource({
        "Ann@Port.Example, ann@port.example",
        "<ann@port.example>, ann@port.example",
        "mailto:ann@port.example, ann@port.example",
        "ann+buoys@port.example, ann+buoys@port.example",
        "jörg@häfen.example, jörg@xn--hfen-loa.example",
        "' ann@port.example. ', ann@port.example",
    })
    void anAddressIsComparedInOneForm(String text, String form) {
        assertThat(EmailAddress.of(text)).hasToString(form).isEqualTo(EmailAddress.of(form));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "ann",
                "ann@",
                "@port.example",
                "ann@port",
                "a b@port.example",
                "a@b@port.example",
                "ann@-.example",
                "ann@por t.example"
            })
    void whatIsNoAddressIsRefusedWithoutBeingRepeated(String text) {
        assertThat(EmailAddress.parse(text)).isEmpty();
        assertThatThrownBy(() -> EmailAddress.of(text))
                .isInstanceOf(InvalidAddress.class)
                .hasMessage("not a mail address");
    }

    @Test
    void anAddressIsCoveredByItselfItsDomainAndTheParents() {
        assertThat(EmailAddress.of("gate@quay.port.example").keys())
                .containsExactly("gate@quay.port.example", "@quay.port.example", "@port.example");
    }

    @Test
    void aDetailAfterAPlusIsAVariantOfTheAddress() {
        assertThat(EmailAddress.of("Bram+Orders+2026@Port.example").withoutDetail())
                .contains(EmailAddress.of("bram@port.example"));
        assertThat(EmailAddress.of("bram+orders@port.example").keys())
                .containsExactly("bram+orders@port.example", "bram@port.example", "@port.example");
        assertThat(EmailAddress.of("bram@port.example").withoutDetail()).isEmpty();
        assertThat(EmailAddress.of("+47555@port.example").withoutDetail()).isEmpty();
        assertThat(EmailAddress.of("\"a+b\"@port.example").withoutDetail()).isEmpty();
    }

    @Test
    void aLookalikeDomainIsAnotherDomain() {
        assertThat(EmailAddress.of("a@notport.example").keys()).doesNotContain("@port.example");
    }

    @ParameterizedTest
    @CsvSource({"co.uk, true", "port.co.uk, false", "port.example, false"})
    void aPublicSuffixIsNobodysOwn(String domain, boolean suffix) {
        assertThat(DomainName.of(domain).isPublicSuffix()).isEqualTo(suffix);
    }
}
