package jandrel.core.decide;

/** Every rule that can have a part in a decision. The names are stored: never rename one. */
public enum Rule {
    UNREADABLE,
    TOO_OLD,
    MAIL_OFF,
    MEETINGS_OFF,
    CANCELLED,
    GONE,
    BOUNCE,
    AUTOMATIC,
    BULK,
    LIST,
    EXCLUDED,
    ALONE,
    INSIDE_ONLY,
    CONTACT_ADDRESS,
    SHARED_ADDRESS_OWNER,
    SHARED_ADDRESS_RECENT,
    SHARED_ADDRESS_FIRST,
    ACCOUNT_OF_CONTACT,
    ACCOUNT_DOMAIN,
    FREE_MAIL,
    UNKNOWN_ADDRESS,
    NOBODY_MATCHED,
    ONLY_OPPORTUNITY,
    NO_OPPORTUNITY,
    SEVERAL_OPPORTUNITIES,
    PRIVATE_MEETING,
    READ_BY_EVERYONE,
    READ_BY_THOSE_ON_IT
}
