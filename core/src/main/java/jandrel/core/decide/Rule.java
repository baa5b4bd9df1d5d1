package jandrel.core.decide;

import java.util.Collection;
import java.util.Collections;
import java.util.EnumSet;
import java.util.Set;

/**
 * Every rule that can have a part in a decision. The names are stored: never rename one.
 *
 * <p>Of what a rule leaves out nothing is kept, so it cannot be decided again by itself: each such rule names all that can undo it.
 * {@link #GONE} and {@link #UNREADABLE} rest on the item alone.
 */
// it holds nothing that could change
@SuppressWarnings("ImmutableEnumChecker")
public enum Rule {
    UNREADABLE,
    TOO_OLD(Input.SINCE, Input.HAND),
    MAIL_OFF(Input.RECEIVED, Input.SENT),
    MEETINGS_OFF(Input.MEETINGS, Input.HAND),
    CANCELLED(Input.CANCELLED_MEETINGS),
    GONE,
    BOUNCE(Input.HAND),
    AUTOMATIC(Input.HAND),
    BULK(Input.HAND),
    LIST(Input.HAND),
    EXCLUDED(Input.EXCLUSIONS, Input.POLICY, Input.SAME_ADDRESSES, Input.HAND),
    ALONE(Input.FEWER_INSIDERS, Input.SAME_ADDRESSES, Input.FORWARDED_AUTHOR, Input.PINS),
    INSIDE_ONLY(Input.FEWER_INSIDERS, Input.SAME_ADDRESSES, Input.FORWARDED_AUTHOR, Input.PINS),
    CONTACT_ADDRESS,
    WITHOUT_DETAIL,
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
    READ_BY_THOSE_ON_IT,
    RECEIVED_OFF(Input.RECEIVED, Input.MORE_INSIDERS, Input.SAME_ADDRESSES),
    SENT_OFF(Input.SENT, Input.FEWER_INSIDERS, Input.SAME_ADDRESSES),
    COVER_ENDED(Input.COVER_END),
    NOT_COVERED(Input.COVER),
    PRIVATE_OFF(Input.PRIVATE_ITEMS),
    SERIES_OFF(Input.SERIES),
    CANCELLED_KEPT,
    CANCELLED_MARKED,
    GONE_KEPT,
    GONE_MARKED,
    SHARED_ADDRESS_ALL,
    READ_BY_TEAM,
    READ_BY_OWNER,
    OWN_CHOICE_NARROWER,
    OWN_CHOICE_OWNER,
    NARROWEST_COUNTS,
    OPENED_BY,
    CLOSED_BY,
    AUTO_REPLY(Input.HAND),
    CARRIES_MEETING(Input.CALENDAR, Input.MEETINGS, Input.HAND),
    CUT_SHORT,
    FORWARDED,
    FORWARDED_COUNTS,
    KEPT_OUT_BY_HAND(Input.HAND),
    COUNTED_BY_HAND,
    COUNTED_DESPITE,
    LEAD_ADDRESS,
    PINNED,
    ACCOUNT_ABOVE,
    EARLIER_ACCOUNT,
    OPPORTUNITY_OF_CONTACTS,
    OPPORTUNITY_OF_OWNER,
    MADE_HERE,
    DECLINED_BY_ALL,
    SHARED_ADDRESS_OLDEST,
    MISSED_BY_WORD,
    WITHOUT_DOTS,
    /** The zone of its time is not known, so that UTC was taken for it. */
    ZONE_UNKNOWN,
    UNPROVEN;

    /** Those by which something is left out, or cannot be read. */
    public static final Set<Rule> LEAVING_OUT = leavingOut();

    private final Set<Input> restsOn;

    Rule(Input... restsOn) {
        this.restsOn = Set.of(restsOn);
    }

    private static Set<Rule> leavingOut() {
        Set<Rule> rules = EnumSet.of(GONE, UNREADABLE);
        for (Rule rule : values()) {
            if (!rule.restsOn.isEmpty()) {
                rules.add(rule);
            }
        }
        return Collections.unmodifiableSet(rules);
    }

    /** @return the rules that may no longer keep out what they did, when any of these changes */
    public static Set<Rule> reopenedBy(Collection<Input> changed) {
        Set<Rule> reopened = EnumSet.noneOf(Rule.class);
        for (Rule rule : values()) {
            if (!Collections.disjoint(rule.restsOn, changed)) {
                reopened.add(rule);
            }
        }
        return reopened;
    }

    public static Set<Rule> reopenedBy(Input... changed) {
        return reopenedBy(Set.of(changed));
    }
}
