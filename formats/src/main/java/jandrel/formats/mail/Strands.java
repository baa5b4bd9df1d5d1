package jandrel.formats.mail;

import jandrel.core.item.Subjects;
import jandrel.core.item.ThreadHeaders;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Base64;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Reads how a message hangs together with others (RFC 5322 §3.6.4). */
final class Strands {
    /** Of a long chain the root and the nearest are enough to find the rest by. */
    private static final int MOST = 12;

    private static final int DIGEST_BYTES = 9;
    private static final int LONGEST_ID = 1_000;

    private Strands() {}

    static ThreadHeaders of(Headers headers, String subject) {
        List<String> own = ids(headers.first("message-id"));
        Set<String> all = new LinkedHashSet<>(ids(headers.first("references")));
        all.addAll(ids(headers.first("in-reply-to")));
        List<String> before = new ArrayList<>(all);
        if (before.size() > MOST) {
            before.subList(1, before.size() - MOST + 1).clear();
        }
        return new ThreadHeaders(
                own.isEmpty() ? "" : digest(own.get(0)),
                before.stream().map(Strands::digest).toList(),
                !before.isEmpty() || Subjects.isAnswer(subject));
    }

    /** What stands in angle brackets; some programs leave them out around a single id. */
    private static List<String> ids(String value) {
        List<String> ids = new ArrayList<>();
        int open = value.indexOf('<');
        while (open >= 0) {
            int close = value.indexOf('>', open);
            if (close < 0) {
                break;
            }
            if (close - open > 1 && close - open < LONGEST_ID) {
                ids.add(value.substring(open + 1, close).strip());
            }
            open = value.indexOf('<', close);
        }
        if (ids.isEmpty() && value.indexOf('@') > 0 && value.indexOf(' ') < 0 && value.length() < LONGEST_ID) {
            ids.add(value);
        }
        return ids;
    }

    private static String digest(String id) {
        byte[] hash = sha256(id);
        return Base64.getUrlEncoder().withoutPadding().encodeToString(java.util.Arrays.copyOf(hash, DIGEST_BYTES));
    }

    static byte[] sha256(String text) {
        try {
            return MessageDigest.getInstance("SHA-256").digest(text.getBytes(StandardCharsets.UTF_8));
        } catch (NoSuchAlgorithmException impossible) {
            throw new IllegalStateException("this Java lacks SHA-256", impossible);
        }
    }
}
