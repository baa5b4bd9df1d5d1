package jandrel.core.item;

/**
 * Whether a person wrote a message, and the header that tells.
 *
 * @param evidence the header field's name, with its value where that is one which a standard defines, such as {@code Auto-Submitted:
 *     auto-replied}; never anything else that a message says; empty for ordinary mail
 */
public record Nature(Kind kind, String evidence) {
    /** Mail that a person wrote. */
    public static final Nature ORDINARY = new Nature(Kind.ORDINARY, "");

    /** What sort of mail it is (RFC 3834 automatic, RFC 2369 and 2919 lists, RFC 3464 bounces). */
    public enum Kind {
        ORDINARY,
        AUTOMATIC,
        /** An automatic answer, such as one that says somebody is away. */
        AUTO_REPLY,
        BULK,
        LIST,
        BOUNCE
    }
}
