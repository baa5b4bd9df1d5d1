package jandrel.core.item;

import java.util.List;
import java.util.Objects;

/**
 * How a message hangs together with others (RFC 5322 §3.6.4). Ids are kept as short digests: they are only ever compared.
 *
 * @param own of its Message-ID; empty when it has none
 * @param before of what it answers and what that answered, the oldest first
 * @param reply whether it calls itself an answer, by a header or by its subject
 */
public record ThreadHeaders(String own, List<String> before, boolean reply) {
    /** Of a message that says nothing about it. */
    public static final ThreadHeaders NONE = new ThreadHeaders("", List.of(), false);

    public ThreadHeaders {
        own = Objects.requireNonNullElse(own, "");
        before = List.copyOf(Objects.requireNonNullElse(before, List.of()));
    }
}
