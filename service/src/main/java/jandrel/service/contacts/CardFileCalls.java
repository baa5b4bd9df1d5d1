package jandrel.service.contacts;

import jakarta.servlet.http.HttpServletResponse;
import jandrel.formats.card.CardFile;
import jandrel.formats.card.UnreadableCard;
import jandrel.formats.mail.Phones;
import jandrel.service.kernel.Refusal;
import jandrel.store.contacts.RecordContacts;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Clock;
import java.util.List;
import java.util.UUID;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** Contacts as cards (RFC 6350). The directory is everybody's. */
@RestController
class CardFileCalls {
    private static final int MOST = 20_000;
    private final RecordContacts contacts;
    private final Phones phones;
    private final Clock clock;

    CardFileCalls(RecordContacts contacts, Phones phones, Clock clock) {
        this.contacts = contacts;
        this.phones = phones;
        this.clock = clock;
    }

    /** The contacts of a record, or a contact itself, one card after another. */
    @GetMapping(path = "/api/records/{id}/contacts.vcf", produces = "text/vcard")
    void cards(@PathVariable("id") UUID record, HttpServletResponse response) throws IOException, UnreadableCard {
        List<RecordContacts.Known> all = contacts.of(record, MOST).orElseThrow(() -> Refusal.notFound("record"));
        response.setContentType("text/vcard");
        response.setCharacterEncoding("UTF-8");
        response.setHeader("Content-Disposition", "attachment; filename=contacts.vcf");
        OutputStream out = new BufferedOutputStream(response.getOutputStream(), 1 << 16);
        for (RecordContacts.Known known : all) {
            CardFile card = CardFile.fresh(known.id().toString(), phones);
            card.put(known.details(), clock.instant(), "");
            out.write(card.bytes());
        }
        out.flush();
    }
}
