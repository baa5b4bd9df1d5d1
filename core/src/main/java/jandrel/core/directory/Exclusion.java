package jandrel.core.directory;

import java.time.LocalDate;
import java.util.Locale;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * Something that is never captured.
 *
 * @param what what it covers, as its kind writes it; see {@link Kind}
 * @param reason why, in the words of whoever added it; may be empty
 * @param limits for whom and until when
 */
public record Exclusion(UUID id, Kind kind, String what, String reason, Limits limits) {

    /** What kind of thing is covered. */
    public enum Kind {
        /** One address. */
        ADDRESS,
        /** A domain with all below it; written with a leading {@code @}. */
        DOMAIN,
        /** A domain without what is below it; written with a leading {@code @}. */
        DOMAIN_ALONE,
        /** Addresses like this one, {@code *} standing for any characters and {@code ?} for one. */
        PATTERN,
        /** Mail with this among its markers: {@code name: value}, the value possibly with {@code *} and {@code ?}. */
        HEADER,
        /** Mail of the list with this id (RFC 2919). */
        LIST,
        /** Meetings of this category. */
        CATEGORY,
        /** Meetings of this class: {@code private} or {@code confidential}. */
        CLASS,
        /** Meetings with all of these words in the title. */
        TITLE;

        /** The word used in the API. */
        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }

        /** Whether it is looked up by an address on the item; all others are tried one by one. */
        public boolean byKey() {
            return this == ADDRESS || this == DOMAIN || this == DOMAIN_ALONE;
        }
    }

    /**
     * @param policy counts under this policy alone; null for all
     * @param person counts for this person's sources alone; null for all
     * @param lastDay covers nothing dated after this day (in UTC); null for no end
     */
    public record Limits(
            @Nullable UUID policy,
            @Nullable UUID person,
            @Nullable LocalDate lastDay) {
        /** For all, for ever. */
        public static final Limits NONE = new Limits(null, null, null);
    }

    /** An address, or a domain with a leading {@code @} and all below it; for all, for ever. */
    public static Exclusion of(UUID id, String key, String reason) {
        return new Exclusion(id, key.startsWith("@") ? Kind.DOMAIN : Kind.ADDRESS, key, reason, Limits.NONE);
    }
}
