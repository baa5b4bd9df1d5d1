package jandrel.core.journal;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Instant;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * One entry of the journal: who did what to which thing, when, and how it was before and after. Ids and the texts of rules, never
 * what an item says.
 *
 * @param number counts up from 1 without a gap
 * @param at to the microsecond
 * @param previous the hash of the entry before; {@link #START} for the first
 */
public record Entry(
        long number,
        Instant at,
        String who,
        String what,
        Thing thing,
        @Nullable Object before,
        @Nullable Object after,
        String previous) {
    /** What the first entry follows. */
    public static final String START = "0".repeat(64);

    /** @param kind such as {@code policy}; with its id and a name that people know it by */
    public record Thing(String kind, String id, String name) {}

    /** The text that the hash is taken of. */
    public String canonical() {
        Map<String, @Nullable Object> members = new LinkedHashMap<>();
        members.put("number", number);
        members.put("at", at.toString());
        members.put("who", who);
        members.put("what", what);
        members.put("thing", Map.of("kind", thing.kind(), "id", thing.id(), "name", thing.name()));
        members.put("before", before);
        members.put("after", after);
        members.put("previous", previous);
        return Canonical.json(members);
    }

    /** SHA-256 of the canonical text, in lower-case hex. */
    public String hash() {
        return hash(canonical());
    }

    /** SHA-256 of a canonical text, in lower-case hex. */
    public static String hash(String canonical) {
        try {
            byte[] digest = MessageDigest.getInstance("SHA-256").digest(canonical.getBytes(StandardCharsets.UTF_8));
            return HexFormat.of().formatHex(digest);
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("this Java lacks SHA-256", impossible);
        }
    }
}
