package jandrel.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.item.Content.Attachment;
import jandrel.demo.MailProgram;
import jandrel.demo.Providers;
import jandrel.demo.Stand;
import jandrel.sources.Mailbox.Extent;
import jandrel.sources.Mailbox.Folder;
import jandrel.sources.Mailbox.Message;
import jandrel.sources.Mailbox.Role;
import jandrel.sources.Mailbox.Run;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Against Dovecot. */
class ImapMailboxTest {
    private static final Stand STAND = Stand.fromEnvironment();
    private static final String WHO = "reader@corvane.example";
    private static final String TIDY = "tidy@corvane.example";
    private static final Instant NOW = Instant.now().truncatedTo(ChronoUnit.SECONDS);
    private static final Endpoint SERVER = new Endpoint("127.0.0.1", STAND.port("IMAPS"), "");
    private static final Trust TRUST = Trust.with(Path.of(STAND.value("CA")));

    @BeforeAll
    static void fill() throws IOException {
        Providers providers = new Providers(STAND);
        providers.addUser(WHO);
        for (int i = 0; i < 5; i++) {
            providers.mail(
                    WHO, "", NOW.minus(40 - i, ChronoUnit.DAYS), "From: a" + i + "@x.example\r\n\r\nold " + i + "\r\n");
        }
        String big =
                "From: a@x.example\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nread me\r\n--b\r\n"
                        + "Content-Type: application/zip; name=\"all.zip\"\r\nContent-Transfer-Encoding: base64\r\n\r\n"
                        + ("A".repeat(76) + "\r\n").repeat(550_000)
                        + "\r\n--b--\r\n";
        providers.mail(WHO, "", NOW, big);
        providers.mail(WHO, ".Sent", NOW, "From: reader@corvane.example\r\nTo: a@x.example\r\n\r\nhi\r\n");
    }

    private static Mailbox open() {
        return ImapMailbox.open(SERVER, new ServerAccount(WHO, Providers.PASSWORD), TRUST);
    }

    @Test
    void itsFoldersAreTheInboxAndTheOneForSentMail() {
        try (Mailbox mailbox = open()) {
            assertThat(mailbox.folders())
                    .containsExactly(new Folder("INBOX", "inbox", Role.INBOX), new Folder("Sent", "sent", Role.SENT));
        }
    }

    @Test
    void messagesComeFromTheDayWantedAndTheNumberWanted() {
        try (Mailbox mailbox = open()) {
            long[] all = mailbox.uids("INBOX", 1, LocalDate.now().minusDays(100));
            assertThat(all).hasSize(6).isSorted();
            assertThat(mailbox.uids("INBOX", 1, LocalDate.now().minusDays(2))).hasSize(1);
            assertThat(mailbox.uids("INBOX", all[3], LocalDate.now().minusDays(100)))
                    .hasSize(3);
            assertThat(mailbox.uids("INBOX", all[5] + 1, LocalDate.now().minusDays(100)))
                    .isEmpty();
            assertThat(mailbox.extent("INBOX").next()).isEqualTo(all[5] + 1);
            assertThat(mailbox.enter("INBOX")).isEqualTo(mailbox.extent("INBOX"));
        }
    }

    @Test
    void aBatchComesWithTheServersTimeAndChangesNothing() {
        try (Mailbox mailbox = open()) {
            long[] uids = mailbox.uids("INBOX", 1, LocalDate.now().minusDays(100));
            List<Message> messages =
                    mailbox.fetch("INBOX", Arrays.stream(uids).boxed().limit(5).toList());
            assertThat(messages).hasSize(5);
            assertThat(messages.get(0).received()).isEqualTo(NOW.minus(40, ChronoUnit.DAYS));
            assertThat(new String(messages.get(4).bytes(), StandardCharsets.UTF_8))
                    .contains("old 4");
            assertThat(messages.get(0).attachments()).isNull();
        }
    }

    @Test
    void fortyMegabytesAreNamedNotFetched() {
        try (Mailbox mailbox = open()) {
            long[] uids = mailbox.uids("INBOX", 1, LocalDate.now().minusDays(2));
            Message message = mailbox.fetch("INBOX", List.of(uids[0], 999_999L)).get(0);
            assertThat(message.bytes()).hasSize(ImapMailbox.LONGEST);
            Attachment attachment = message.attachments().get(0);
            assertThat(attachment.name()).isEqualTo("all.zip");
            assertThat(attachment.type()).isEqualTo("application/zip");
            assertThat(attachment.bytes()).isBetween(31_000_000L, 31_700_000L);
        }
    }

    @Test
    void whatIsMovedMarkedAndDeletedIsSeen() throws IOException {
        Providers providers = new Providers(STAND);
        providers.addUser(TIDY);
        for (int i = 0; i < 6; i++) {
            providers.mail(TIDY, "", NOW, "From: a" + i + "@x.example\r\n\r\nx\r\n");
        }
        try (Mailbox mailbox = ImapMailbox.open(SERVER, new ServerAccount(TIDY, Providers.PASSWORD), TRUST);
                MailProgram program = MailProgram.open(STAND, TIDY)) {
            Extent before = mailbox.extent("INBOX");
            assertThat(before.messages()).isEqualTo(6);
            assertThat(before.changes()).isPositive();
            program.does("CREATE Deals");
            program.does("CREATE Trash");
            program.does("SELECT INBOX");
            program.does("UID MOVE 2:3 Deals");
            program.does("UID STORE 5 +FLAGS (Crm \\Seen)");
            program.does("UID STORE 6 +FLAGS (\\Deleted)");
            program.does("EXPUNGE");
            Extent after = mailbox.extent("INBOX");
            assertThat(after.messages()).isEqualTo(3);
            assertThat(after.changes()).isGreaterThan(before.changes());
            assertThat(mailbox.goneSince("INBOX", before.validity(), before.changes()))
                    .contains(List.of(new Run(2, 3), new Run(6, 6)));
            assertThat(mailbox.existing("INBOX", List.of(1L, 2L, 5L, 6L))).containsExactlyInAnyOrder(1L, 5L);
            assertThat(mailbox.count("INBOX", 1, 5)).isEqualTo(3);
            assertThat(mailbox.withKeyword("INBOX", "crm")).containsExactly(5L);
            assertThat(mailbox.fetch("INBOX", List.of(5L)).get(0).keywords()).containsExactly("crm");
            mailbox.keyword("INBOX", List.of(1L, 4L), "logged", true);
            mailbox.keyword("INBOX", List.of(4L), "logged", false);
            assertThat(mailbox.withKeyword("INBOX", "logged")).containsExactly(1L);
            assertThat(mailbox.extent("Deals").messages()).isEqualTo(2);
            assertThat(mailbox.folders()).extracting(Folder::role).contains(Role.OTHER);
            assertThat(mailbox.folders()).extracting(Folder::name).doesNotContain("Drafts");
        }
    }

    @Test
    void aWrongPasswordIsToldApartFromAServerThatIsNotThere() {
        assertThatThrownBy(() -> ImapMailbox.open(SERVER, new ServerAccount(WHO, "wrong"), TRUST))
                .isInstanceOfSatisfying(
                        SourceTrouble.class, t -> assertThat(t.kind()).isEqualTo(SourceTrouble.Kind.SIGN_IN));
        assertThatThrownBy(() -> ImapMailbox.open(new Endpoint("127.0.0.1", 9, ""), new ServerAccount(WHO, "x"), TRUST))
                .isInstanceOfSatisfying(
                        SourceTrouble.class, t -> assertThat(t.kind()).isEqualTo(SourceTrouble.Kind.UNREACHABLE));
    }

    @Test
    void aCertificateOfAnUnknownAuthorityIsNotBelieved() {
        assertThatThrownBy(() -> ImapMailbox.open(SERVER, new ServerAccount(WHO, Providers.PASSWORD), Trust.with(null)))
                .isInstanceOfSatisfying(
                        SourceTrouble.class, t -> assertThat(t.kind()).isEqualTo(SourceTrouble.Kind.UNREACHABLE));
    }

    @Test
    void aSetOfNumbersIsWrittenInRanges() {
        assertThat(UidSets.text(List.of(9L, 1L, 2L, 3L, 7L, 10L))).isEqualTo("1:3,7,9:10");
    }

    @Test
    void anAccountNeverPrintsItsSecret() {
        assertThat(new ServerAccount("a", "hush").toString()).doesNotContain("hush");
    }

    @Test
    void whatIsNumberedAnewMeanwhileIsNeitherReadNorMarkedByOldNumbers() throws IOException {
        String who = "renumbered@corvane.example";
        Providers providers = new Providers(STAND);
        providers.addUser(who);
        providers.mail(who, "", NOW, "From: a@x.example\r\n\r\nx\r\n");
        try (Mailbox mailbox = ImapMailbox.open(SERVER, new ServerAccount(who, Providers.PASSWORD), TRUST)) {
            Extent before = mailbox.extent("INBOX");
            assertThat(mailbox.fetch("INBOX", List.of(1L))).hasSize(1);
            assertThat(mailbox.extent("INBOX")).isEqualTo(before);
            providers.numberAnew(who);
            assertThatThrownBy(() -> mailbox.keyword("INBOX", List.of(1L), "logged", true))
                    .isInstanceOf(SourceTrouble.class);
            assertThatThrownBy(() -> mailbox.fetch("INBOX", List.of(1L))).isInstanceOf(SourceTrouble.class);
        }
        try (Mailbox mailbox = ImapMailbox.open(SERVER, new ServerAccount(who, Providers.PASSWORD), TRUST)) {
            mailbox.extent("INBOX");
            assertThat(mailbox.fetch("INBOX", List.of(1L)).get(0).keywords()).isEmpty();
        }
    }
}
