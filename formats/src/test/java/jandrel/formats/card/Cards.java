package jandrel.formats.card;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactField;
import jandrel.formats.mail.Phones;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The cards that the tests read, each with what must come out beside it. */
final class Cards {
    static final Path FOLDER = Path.of("src/test/resources/card");
    static final Phones PHONES = new Phones("NO");

    private Cards() {}

    static List<String> names() {
        try (Stream<Path> files = Files.list(FOLDER)) {
            return files.map(f -> f.getFileName().toString())
                    .filter(n -> n.endsWith(".vcf"))
                    .map(n -> n.substring(0, n.length() - 4))
                    .sorted()
                    .toList();
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    static List<String> readable() {
        return names().stream().filter(n -> words(n).startsWith("version")).toList();
    }

    static byte[] bytes(String name) {
        try {
            return Files.readAllBytes(FOLDER.resolve(name + ".vcf"));
        } catch (IOException broken) {
            throw new UncheckedIOException(broken);
        }
    }

    /** What is read of it, a line each; or why nothing is. */
    static String words(String name) {
        try {
            CardFile card = CardFile.read(bytes(name), PHONES);
            StringBuilder text = new StringBuilder("version " + card.version() + "\nuid " + card.uid() + "\n");
            if (card.isPrivate()) {
                text.append("private\n");
            }
            if (card.isGroup()) {
                text.append("group of ").append(card.members()).append('\n');
            }
            if (card.hasPhoto()) {
                text.append("photo\n");
            }
            ContactDetails details = card.details();
            for (ContactField field : ContactField.values()) {
                String words = field == ContactField.PLACES ? places(details) : field.words(details);
                if (!words.isEmpty()) {
                    text.append(field.name().toLowerCase(java.util.Locale.ROOT))
                            .append(' ')
                            .append(words.replace("\n", " | "))
                            .append('\n');
                }
            }
            return text.toString();
        } catch (UnreadableCard unreadable) {
            return "unreadable: " + unreadable.getMessage() + "\n";
        }
    }

    /** With the parts that are empty, too. */
    private static String places(ContactDetails details) {
        return details.places().entrySet().stream()
                .map(e -> e.getKey() + (e.getValue().isEmpty() ? "" : " (" + e.getValue() + ")"))
                .collect(Collectors.joining(", "));
    }
}
