package jandrel.core.item;

import java.util.List;

/**
 * What a logged item says, kept apart from its facts because it is fetched late and shown to few.
 *
 * @param text plain text, never null, may be empty
 * @param html sanitised HTML; empty when there is none
 * @param attachments name, type and size of each; never their bytes
 */
public record Content(String text, String html, List<Attachment> attachments) {
    /** Says nothing. */
    public static final Content EMPTY = new Content("", "", List.of());

    public Content {
        attachments = List.copyOf(attachments);
    }

    /** @param bytes decoded size, or the encoded size where only that is known */
    public record Attachment(String name, String type, long bytes) {}
}
