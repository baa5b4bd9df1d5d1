package jandrel.formats.mail;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.core.item.Content;
import jandrel.core.item.MailItem;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.random.RandomGenerator;
import java.util.random.RandomGeneratorFactory;
import org.junit.jupiter.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Messages cut, spliced and damaged at random: never a hang, never a crash, never more than the limits let through. */
class FuzzTest {
    private static final Instant RECEIVED = Instant.parse("2026-05-04T12:00:00Z");
    private static final int ROUNDS = 20_000;
    private static final MailLimits LIMITS = MailLimits.USUAL;
    private final MailReader reader = new MailReader(LIMITS);

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4})
    void whateverComesGivesAResultWithinTheLimits(long seed) throws IOException {
        RandomGenerator random = RandomGeneratorFactory.of("L64X128MixRandom").create(seed);
        List<byte[]> corpus = corpus();
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            for (int round = 0; round < ROUNDS; round++) {
                byte[] message = damaged(corpus, random);
                ReadMail read;
                Content content;
                try {
                    read = reader.read(message, RECEIVED, "here");
                    content = read.content();
                    NewText.of(content.text());
                    new Phones("").in(content.text());
                } catch (RuntimeException crashed) {
                    throw new AssertionError("seed " + seed + ", round " + round, crashed);
                }
                assertThat(content.text().length()).isLessThanOrEqualTo(LIMITS.textChars() + LIMITS.parts());
                if (read.item() instanceof MailItem mail) {
                    assertThat(mail.parties().size()).isLessThanOrEqualTo(LIMITS.parties());
                    assertThat(mail.strand().before().size()).isLessThanOrEqualTo(12);
                    assertThat(mail.subject().length()).isLessThanOrEqualTo(500);
                }
            }
        });
    }

    private static List<byte[]> corpus() throws IOException {
        List<Path> files = CorpusTest.messages().toList();
        List<byte[]> corpus = new java.util.ArrayList<>(files.size());
        for (Path file : files) {
            corpus.add(Files.readAllBytes(file));
        }
        return corpus;
    }

    private static byte[] damaged(List<byte[]> corpus, RandomGenerator random) {
        byte[] one = corpus.get(random.nextInt(corpus.size()));
        for (int n = random.nextInt(1, 6); n > 0; n--) {
            byte[] other = corpus.get(random.nextInt(corpus.size()));
            one = switch (random.nextInt(5)) {
                case 0 -> flipped(one, random);
                case 1 -> joined(part(one, random), part(other, random));
                case 2 -> joined(part(one, random), one);
                case 3 -> joined(one, joined(part(one, random), part(one, random)));
                default -> part(one, random);
            };
        }
        return one.length > 400_000 ? java.util.Arrays.copyOf(one, 400_000) : one;
    }

    private static byte[] flipped(byte[] message, RandomGenerator random) {
        byte[] copy = message.clone();
        for (int i = 0; i < copy.length / 50; i++) {
            copy[random.nextInt(copy.length)] = (byte) random.nextInt(256);
        }
        return copy;
    }

    private static byte[] part(byte[] message, RandomGenerator random) {
        if (message.length == 0) {
            return message;
        }
        int from = random.nextInt(message.length);
        return java.util.Arrays.copyOfRange(message, from, random.nextInt(from, message.length + 1));
    }

    private static byte[] joined(byte[] one, byte[] other) {
        ByteArrayOutputStream out = new ByteArrayOutputStream(one.length + other.length);
        out.writeBytes(one);
        out.writeBytes(other);
        return out.toByteArray();
    }

    /** Ten times the input may cost some ten times as much, never a hundred times: a shape that hangs would show at once. */
    @Test
    void shapesThatHangOtherReadersDoNotHangThisOne() {
        List<String> shapes = List.of(
                "(",
                "<",
                "\"",
                "=?utf-8?B?",
                "\\",
                ",",
                ":",
                "a@b,",
                "=\r\n",
                "\r\n ",
                "[",
                "+0 ",
                ">",
                "\r\n> ",
                "<div>",
                "<a href=",
                "&lt;",
                "--b\r\n");
        Assertions.assertTimeoutPreemptively(Duration.ofSeconds(60), () -> {
            for (String shape : shapes) {
                String many = shape.repeat(120_000 / shape.length());
                for (String header :
                        List.of("From: ", "To: a@b.example\r\nSubject: ", "References: ", "Date: ", "Content-Type: ")) {
                    read(header + many + "\r\n\r\nx");
                }
                read("From: a@b.example\r\n\r\n" + many);
                read("From: a@b.example\r\nContent-Type: text/html\r\n\r\n" + many);
                read("From: a@b.example\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n" + many);
            }
        });
    }

    private void read(String message) {
        Content content = reader.read(message.getBytes(java.nio.charset.StandardCharsets.UTF_8), RECEIVED, "here")
                .content();
        NewText.of(content.text());
        new Phones("").in(content.text());
    }
}
