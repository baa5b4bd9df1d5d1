package jandrel.core.item;

import jandrel.core.address.EmailAddress;
import org.jspecify.annotations.Nullable;

/**
 * What a message brings within it, apart from its text.
 *
 * @param meeting the meeting that it carries (RFC 6047), if it carries one
 * @param forwarded who wrote the message that this one passes on, if a person forwarded one
 * @param cut whether it holds more than is ever looked at, so that these facts are of its beginning
 */
public record Inside(@Nullable Carried meeting, @Nullable Forwarded forwarded, boolean cut) {
    /** Nothing. */
    public static final Inside NOTHING = new Inside(null, null, false);

    /**
     * @param method what it wants of the meeting, such as {@code REQUEST} or {@code REPLY} (RFC 5546)
     * @param uid names the meeting in every calendar
     */
    public record Carried(String method, String uid) {}

    /** @param name may be empty */
    public record Forwarded(EmailAddress from, String name) {}
}
