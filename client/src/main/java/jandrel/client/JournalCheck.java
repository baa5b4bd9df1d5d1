package jandrel.client;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;

/**
 * Verifies an exported journal, without service or database. Each line holds the canonical text of an entry (RFC 8785), of which
 * the SHA-256 is taken as it stands, and the hash; each entry names the hash of the one before.
 */
public final class JournalCheck {
    private static final String START = "0".repeat(64);
    private static final String BEGIN = "{\"entry\":";
    private static final String MIDDLE = ",\"hash\":\"";

    private JournalCheck() {}

    public static void main(String[] arguments) {
        if (arguments.length != 1) {
            System.err.println("jandrel-check: give the one file that “jandrel journal export” wrote");
            System.exit(Trouble.USE);
        }
        try {
            System.exit(check(Path.of(arguments[0])));
        } catch (IOException unreadable) {
            System.err.println("jandrel-check: the file " + arguments[0] + " cannot be read");
            System.exit(Trouble.USE);
        }
    }

    static int check(Path file) throws IOException {
        long number = 0;
        String head = START;
        try (BufferedReader lines = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                number++;
                String why = misfit(line, number, head);
                if (!why.isEmpty()) {
                    System.out.println("Line " + number + " does not fit: " + why + ".");
                    return Trouble.NO;
                }
                head = hashOf(line);
            }
        }
        System.out.printf("All %,d entries fit. The last hash is %s%n", number, head);
        return 0;
    }

    private static String misfit(String line, long number, String previous) {
        int cut = line.lastIndexOf(MIDDLE);
        if (!line.startsWith(BEGIN) || cut < 0 || line.length() != cut + MIDDLE.length() + 66) {
            return "it is no line of a journal";
        }
        String entry = line.substring(BEGIN.length(), cut);
        if (!sha256(entry).equals(hashOf(line))) {
            return "what it says is not what was written";
        }
        try {
            JsonNode node = Http.JSON.readTree(entry);
            if (node.path("number").asLong() != number) {
                return "entry " + number + " is missing";
            }
            return node.path("previous").asString("").equals(previous) ? "" : "it does not follow the entry before it";
        } catch (JacksonException noJson) {
            return "it is no JSON";
        }
    }

    private static String hashOf(String line) {
        return line.substring(line.length() - 66, line.length() - 2);
    }

    private static String sha256(String text) {
        try {
            return HexFormat.of()
                    .formatHex(MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8)));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("this Java lacks SHA-256", impossible);
        }
    }
}
