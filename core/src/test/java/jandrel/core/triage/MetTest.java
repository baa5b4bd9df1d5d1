package jandrel.core.triage;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Insider;
import jandrel.core.item.MailItem;
import jandrel.core.item.Nature;
import jandrel.core.item.Party;
import jandrel.core.item.Party.Part;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.UUID;
import org.junit.jupiter.api.Test;

class MetTest {
    private static final DirectorySlice SLICE = DirectorySlice.builder()
            .person("rep@corvane.example", new Insider(new UUID(0, 1), "Rep"))
            .contact("bram@skarvik.example", new Contact(new UUID(0, 2), "c1", "Bram", null, null))
            .build();

    private static MailItem mail(Party... parties) {
        return new MailItem("mail:1", Instant.EPOCH, true, List.of(parties), "s", Nature.ORDINARY);
    }

    private static Party party(Part part, String address, String name) {
        return new Party(part, EmailAddress.of(address), name);
    }

    private static List<String> met(Party... parties) {
        return Met.on(mail(parties), SLICE).stream()
                .map(m -> m.address() + " " + m.domain() + " " + m.name() + " " + m.way())
                .toList();
    }

    @Test
    void thoseWhomNoRecordAccountsForAreMetOnceEach() {
        assertThat(met(
                        party(Part.FROM, "rep@corvane.example", ""),
                        party(Part.TO, "bram+x@skarvik.example", ""),
                        party(Part.TO, "ida@mail.north.co.uk", ""),
                        party(Part.CC, "ida@mail.north.co.uk", "Ida Moe")))
                .containsExactly("ida@mail.north.co.uk north.co.uk Ida Moe OUT");
    }

    @Test
    void whoWroteIsToldFromWhoIsBeside() {
        assertThat(met(
                        party(Part.FROM, "ida@north.example", "Ida"),
                        party(Part.TO, "rep@corvane.example", ""),
                        party(Part.CC, "ole@north.example", "Ole")))
                .containsExactly(
                        "ida@north.example north.example Ida IN", "ole@north.example north.example Ole BESIDE");
        assertThat(Arrays.asList(Met.Way.values())).startsWith(Met.Way.IN, Met.Way.OUT);
    }
}
