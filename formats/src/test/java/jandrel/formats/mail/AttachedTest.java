package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Content.Attachment;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import org.junit.jupiter.api.Test;

class AttachedTest {
    @Test
    void whatIsNamedIsFoundAndDecoded() throws Exception {
        byte[] message = Files.readAllBytes(Path.of("src/test/resources/mail/mime-nested.eml"));
        Attachment listed = new MailReader(MailLimits.USUAL)
                .read(message, Instant.EPOCH, "here")
                .attachments()
                .get(0);
        assertThat(Attached.of(message, listed))
                .hasValueSatisfying(b ->
                        assertThat(new String(b, StandardCharsets.US_ASCII)).startsWith("%PDF-1.4"));
        assertThat(Attached.of(message, new Attachment("other.pdf", "application/pdf", 1)))
                .isEmpty();
        assertThat(Attached.of("From: a@b.example".getBytes(StandardCharsets.US_ASCII), listed))
                .isEmpty();
    }

    @Test
    void everyAttachmentOfTheCorpusThatIsListedCanBeTakenOut() throws Exception {
        for (Path file : CorpusTest.messages().toList()) {
            byte[] message = Files.readAllBytes(file);
            for (Attachment a : new MailReader(MailLimits.USUAL)
                    .read(message, Instant.EPOCH, "here")
                    .attachments()) {
                assertThat(Attached.of(message, a))
                        .as("%s in %s", a.name(), file.getFileName())
                        .isPresent();
            }
        }
    }
}
