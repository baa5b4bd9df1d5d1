package jandrel.core.directory;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.World;
import jandrel.core.item.Item;
import jandrel.core.triage.Met;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Addresses at providers that ignore dots before the @. */
class DotsTest {
    private static final DirectorySlice SLICE = DirectorySlice.builder()
            .dotless("@fjordpost.example")
            .contact("bram.holm@fjordpost.example", World.BRAM)
            .person("tobias.r@fjordpost.example", World.REP)
            .exclusion(Exclusion.of(World.id(7), "o.le@fjordpost.example", ""))
            .exclusion(Exclusion.of(World.id(8), "o.le@skarvik.example", ""))
            .build();

    @ParameterizedTest
    @CsvSource({
        "bramholm@fjordpost.example,true",
        "b.r.a.m.holm@fjordpost.example,true",
        "bramholm+x@fjordpost.example,true",
        "bramholm@skarvik.example,false",
        "bram.holms@fjordpost.example,false"
    })
    void oneContactIsFoundByAllOfThem(String address, boolean found) {
        EmailAddress written = EmailAddress.of(address);
        assertThat(SLICE.otherForm(written).map(EmailAddress::toString).orElse(""))
                .isEqualTo(found ? "bram.holm@fjordpost.example" : "");
        assertThat(Met.on(World.mail(address, "x@corvane.example"), SLICE).stream()
                        .noneMatch(m -> m.address().equals(written)))
                .isEqualTo(found);
    }

    @Test
    void theFormThatIsKnownIsNoOtherOne() {
        assertThat(SLICE.otherForm(EmailAddress.of("bram.holm@fjordpost.example")))
                .isEmpty();
    }

    @Test
    void oneOfOursIsInsideByAllOfThem() {
        assertThat(SLICE.isInside(EmailAddress.of("tobiasr@fjordpost.example"))).isTrue();
        assertThat(SLICE.isInside(EmailAddress.of("tobias.r@skarvik.example"))).isFalse();
    }

    @ParameterizedTest
    @CsvSource({
        "ole@fjordpost.example,true",
        "o.l.e@fjordpost.example,true",
        "ole+x@fjordpost.example,true",
        "ole@skarvik.example,false"
    })
    void anExclusionCoversAllOfThem(String address, boolean covered) {
        Item item = World.mail(address, "x@corvane.example");
        assertThat(SLICE.exclusions().covering(item, World.id(1), World.id(2)).isPresent())
                .isEqualTo(covered);
        assertThat(new ExclusionIndex(List.of(Exclusion.of(World.id(7), "o.le@fjordpost.example", "")))
                        .covering(item, World.id(1), World.id(2)))
                .isEmpty();
    }
}
