package jandrel.core.policy;

import jandrel.core.directory.Wildcards;
import java.util.List;
import java.util.Locale;

/**
 * Which folders of a mailbox are looked at where its owner has not chosen. Drafts, junk and trash never are, whatever is said here.
 *
 * @param include roles ({@code inbox}, {@code sent}, {@code archive}) and patterns of names, such as {@code Customers/*}
 * @param exclude likewise; what both name is left alone
 */
public record Folders(List<String> include, List<String> exclude) {
    /** Those that have a use of their own (RFC 6154). */
    public static final Folders SAFE = new Folders(List.of("inbox", "sent", "archive"), List.of());

    public Folders {
        include = List.copyOf(include);
        exclude = List.copyOf(exclude);
    }

    /**
     * @param name whole, with the names of the folders above it
     * @param role {@code inbox}, {@code sent}, {@code archive} or {@code other}
     */
    public boolean looksAt(String name, String role) {
        return names(include, name, role) && !names(exclude, name, role);
    }

    private static boolean names(List<String> words, String name, String role) {
        String lower = name.toLowerCase(Locale.ROOT);
        return words.stream()
                .map(w -> w.toLowerCase(Locale.ROOT))
                .anyMatch(w -> w.equals(role) || Wildcards.match(w, lower));
    }
}
