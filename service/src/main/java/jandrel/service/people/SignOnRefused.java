package jandrel.service.people;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Somebody who came from a provider does not get in. */
final class SignOnRefused extends RuntimeException {
    private static final long serialVersionUID = 1L;

    /** Why, for the page that says so; what is behind it is for the log alone. */
    enum Why {
        /** It took too long, or began in another browser. */
        EXPIRED,
        /** The person, or the provider, said no. */
        DENIED,
        /** The provider does not answer, or not as it should. */
        PROVIDER,
        /** What it said of the person cannot be believed. */
        TOKEN,
        /** It does not vouch for a mail address. */
        UNVERIFIED,
        /** The address is nobody's of the company. */
        NOBODY,
        /** The sign-in has ended. */
        ENDED,
        /** The sign-in belongs to another account of that provider. */
        TAKEN,
        /** None of the person's groups has a role. */
        ROLE;

        String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    private final Why why;

    SignOnRefused(Why why, String detail, @Nullable Throwable cause) {
        super(detail, cause);
        this.why = why;
    }

    Why why() {
        return why;
    }
}
