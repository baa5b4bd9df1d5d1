package jandrel.formats.card;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactField;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Cards by strangers: whatever stands in them, reading ends soon, and nothing of one comes to stand where it must not. */
class HostileCardTest {
    private static byte[] card(String... lines) {
        return ("BEGIN:VCARD\r\nVERSION:3.0\r\nUID:u\r\nFN:Eve\r\n" + String.join("\r\n", lines) + "\r\nEND:VCARD\r\n")
                .getBytes(StandardCharsets.UTF_8);
    }

    private static CardFile read(byte[] bytes) throws UnreadableCard {
        return CardFile.read(bytes, Cards.PHONES);
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
    @Timeout(60)
    void whateverIsBrokenInItItIsReadOrSaidToBeUnreadable(long seed) {
        Random random = new Random(seed);
        List<String> names = Cards.names();
        for (int i = 0; i < 400; i++) {
            byte[] bytes = mutated(Cards.bytes(names.get(random.nextInt(names.size()))), random);
            try {
                CardFile card = read(bytes);
                ContactDetails before = card.details();
                ContactDetails other = ContactField.TITLE.put(
                        ContactField.MAILS.put(before, mailed("eve" + i + "@far.example")), titled("Title " + i));
                card.put(other, Instant.EPOCH, "");
                card.bytes();
            } catch (UnreadableCard said) {
                assertThat(said.getMessage()).isNotEmpty();
            }
        }
    }

    private static ContactDetails mailed(String address) {
        TreeMap<String, String> mails = new TreeMap<>();
        mails.put(address, "work");
        return details("", mails);
    }

    private static ContactDetails titled(String title) {
        return details(title, new TreeMap<>());
    }

    private static ContactDetails details(String title, TreeMap<String, String> mails) {
        ContactDetails n = ContactDetails.NOTHING;
        return new ContactDetails(
                "", n.parts(), "", "", title, "", mails, n.phones(), n.places(), n.urls(), "", "", n.categories());
    }

    private static byte[] mutated(byte[] bytes, Random random) {
        byte[] some = bytes.clone();
        for (int n = random.nextInt(6); n >= 0 && some.length > 2; n--) {
            int at = random.nextInt(some.length);
            int length = Math.min(some.length - at, 1 + random.nextInt(40));
            switch (random.nextInt(5)) {
                case 0 -> some[at] = (byte) random.nextInt(256);
                case 1 -> some = without(some, at, length);
                case 2 -> some = twice(some, at, length);
                case 3 -> some[at] = (byte) ":;=\\\",\r\n \t.".charAt(random.nextInt(11));
                default -> some = Arrays.copyOf(some, at);
            }
        }
        return some;
    }

    private static byte[] without(byte[] bytes, int at, int length) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.write(bytes, 0, at);
        out.write(bytes, at + length, bytes.length - at - length);
        return out.toByteArray();
    }

    private static byte[] twice(byte[] bytes, int at, int length) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        out.write(bytes, 0, at + length);
        out.write(bytes, at, bytes.length - at);
        return out.toByteArray();
    }

    @Test
    @Timeout(20)
    void aLargePhotoIsCarriedAndNotLookedAt() throws UnreadableCard {
        byte[] bytes = card("PHOTO;ENCODING=b;TYPE=JPEG:" + "QUJD".repeat(1_300_000), "TITLE:Pilot");
        CardFile card = read(bytes);
        assertThat(card.hasPhoto()).isTrue();
        card.put(ContactField.TITLE.put(card.details(), titled("Master")), Instant.EPOCH, "");
        assertThat(card.bytes().length).isGreaterThan(5_000_000);
        assertThat(read(card.bytes()).details().title()).isEqualTo("Master");
    }

    @Test
    @Timeout(20)
    void whatIsTooMuchIsSaid() {
        assertThatThrownBy(() -> read(new byte[17 * 1024 * 1024])).hasMessage("it is larger than 16 MB");
        assertThatThrownBy(() -> read(card("X-A:1\r\n".repeat(3_000).strip()))).hasMessageContaining("2000 lines");
        assertThatThrownBy(() -> read(card("NOTE:" + "x".repeat(30_000))).details())
                .hasMessageContaining("longer than 20000 characters");
    }

    /** A value that holds line ends must not become properties of their own. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "x\r\nEMAIL:eve@far.example",
                "x\nCLASS:PUBLIC\nEND:VCARD",
                "x\\nEMAIL:eve@far.example",
                "x;TYPE=work:y",
                "\u2028EMAIL:eve@far.example"
            })
    void aValueStaysAValue(String value) throws UnreadableCard {
        for (String version : List.of("2.1", "3.0", "4.0")) {
            byte[] bytes = new String(card("CLASS:PRIVATE"), StandardCharsets.UTF_8)
                    .replace("3.0", version)
                    .getBytes(StandardCharsets.UTF_8);
            CardFile card = read(bytes);
            card.put(ContactField.TITLE.put(card.details(), titled(value)), Instant.EPOCH, "");
            CardFile again = read(card.bytes());
            assertThat(again.details().mails()).isEmpty();
            assertThat(again.isPrivate()).isTrue();
            assertThat(again.details().title()).startsWith(value.substring(0, 1).strip());
        }
    }
}
