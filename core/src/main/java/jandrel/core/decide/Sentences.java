package jandrel.core.decide;

import java.util.List;

/** Says a trail in words. Client and console both print what stands here, so that they never differ. */
public final class Sentences {
    private Sentences() {}

    public static List<String> of(List<Reason> trail) {
        return trail.stream().map(Sentences::of).toList();
    }

    public static String of(Reason r) {
        return switch (r.rule()) {
            case UNREADABLE -> "It could not be read: " + r.fact("why") + ".";
            case TOO_OLD ->
                "Left out: it is from before " + r.fact("since") + ", where capture begins for this source.";
            case MAIL_OFF -> "Left out: the policy does not capture mail.";
            case MEETINGS_OFF -> "Left out: the policy does not capture meetings.";
            case CANCELLED -> "Left out: the meeting was cancelled.";
            case GONE -> "Left out: it is no longer at its source.";
            case BOUNCE -> "Left out: a mail server wrote it to say that a message was not delivered" + header(r) + ".";
            case AUTOMATIC -> "Left out: a program wrote it, not a person" + header(r) + ".";
            case BULK -> "Left out: it was sent in bulk" + header(r) + ".";
            case LIST -> "Left out: it came through a mailing list" + header(r) + ".";
            case AUTO_REPLY -> "Left out: a program answered, as when somebody is away" + header(r) + ".";
            case CARRIES_MEETING ->
                "Left out: it is about a meeting (" + r.fact("method")
                        + "), which stands on the timeline by itself, from this person’s calendar.";
            case CUT_SHORT -> "It holds more than is ever looked at: what was read of its beginning counts.";
            case FORWARDED ->
                "It passes on a message by " + r.fact("author")
                        + ", who is not on it and so does not count for matching.";
            case FORWARDED_COUNTS ->
                "It passes on a message by " + r.fact("author") + "; the policy lets whoever wrote that count.";
            case KEPT_OUT_BY_HAND -> "Left out: its owner keeps it out by hand (keyword “" + r.fact("keyword") + "”).";
            case COUNTED_BY_HAND -> "Its owner made it count by hand (" + r.fact("by") + ").";
            case COUNTED_DESPITE ->
                "By itself it would have been left out (" + r.fact("otherwise")
                        + "), but its owner made it count by hand (" + r.fact("by") + ").";
            case MADE_HERE -> "It was made or changed here, so it counts.";
            case UNPROVEN ->
                "Waiting: it was sent to Jandrel’s own address, and no trusted mail server confirmed the sender.";
            case ZONE_UNKNOWN ->
                "Unknown time zone, which the calendar file does not describe: read as UTC, so the time may be wrong.";
            case DECLINED_BY_ALL -> "Everybody from outside has declined it.";
            case WITHOUT_DOTS ->
                r.fact("address") + " is the same mailbox as " + r.fact("plain") + ": " + r.fact("domain")
                        + " ignores dots.";
            case MISSED_BY_WORD ->
                "It did not take place: its title or a category says “" + r.fact("word") + "”, as the policy has it.";
            case LEAD_ADDRESS -> r.fact("address") + " is an address of the lead " + r.fact("lead") + ".";
            case PINNED -> r.fact("by") + " pinned it to " + r.fact("record") + ".";
            case ACCOUNT_ABOVE ->
                r.fact("account") + " is a part of " + r.fact("above") + ": shown on that timeline too.";
            case EARLIER_ACCOUNT ->
                r.fact("contact") + " belonged to " + r.fact("account") + " until " + r.fact("until")
                        + ", and this is from before.";
            case OPPORTUNITY_OF_CONTACTS ->
                "“" + r.fact("opportunity") + "” is the open opportunity of " + r.fact("account")
                        + " that has somebody on this item: linked to it too.";
            case OPPORTUNITY_OF_OWNER ->
                "“" + r.fact("opportunity") + "” is the one open opportunity of " + r.fact("account")
                        + " whose owner is on this item: linked to it too.";
            case EXCLUDED ->
                r.fact("kind").equals("own")
                        ? "Left out: it is covered by an exclusion that this person made for themselves."
                        : "Left out: " + (isOfPeople(r.fact("kind")) ? "somebody on it" : "it")
                                + " is covered by the exclusion “"
                                + r.fact("exclusion") + "”"
                                + (r.fact("reason").isEmpty() ? "" : " (" + r.fact("reason") + ")")
                                + ".";
            case ALONE -> "Left out: nobody else is on it.";
            case INSIDE_ONLY -> "Left out: everybody on it is from our own company.";
            case WITHOUT_DETAIL ->
                r.fact("address") + " is delivered to " + r.fact("plain") + ": what stands after the plus is a detail.";
            case CONTACT_ADDRESS -> r.fact("address") + " is an address of " + r.fact("contact") + ".";
            case SHARED_ADDRESS_OWNER -> shared(r) + ": the owner of that account is on this item.";
            case SHARED_ADDRESS_RECENT ->
                shared(r) + ": no account owner on this item settles it, and that contact was active most recently ("
                        + r.fact("active") + ").";
            case SHARED_ADDRESS_FIRST ->
                shared(r)
                        + ": neither an account owner on this item nor recent activity settles it, so the first by key.";
            case ACCOUNT_OF_CONTACT -> r.fact("contact") + " belongs to the account " + r.fact("account") + ".";
            case ACCOUNT_DOMAIN ->
                r.fact("address") + " is nobody’s known address, but “" + r.fact("domain") + "” is a domain of "
                        + r.fact("account") + ": linked to the account alone.";
            case FREE_MAIL ->
                r.fact("address") + " is nobody’s known address, and anybody can have one at “" + r.fact("domain")
                        + "”, so its domain says nothing.";
            case UNKNOWN_ADDRESS -> r.fact("address") + " is nobody’s known address, and no account has its domain.";
            case NOBODY_MATCHED -> "Waiting: nobody outside our company was matched to a contact or an account.";
            case ONLY_OPPORTUNITY ->
                "“" + r.fact("opportunity") + "” is the only open opportunity of " + r.fact("account")
                        + ": linked to it too.";
            case NO_OPPORTUNITY -> r.fact("account") + " has no open opportunity, so none is linked.";
            case SEVERAL_OPPORTUNITIES ->
                r.fact("account") + " has " + r.fact("count") + " open opportunities"
                        + (r.fact("candidates").isEmpty() ? "" : " (" + r.fact("candidates") + ")")
                        + " and nothing settles which, so none is picked.";
            case PRIVATE_MEETING ->
                "Logged. It is marked private: its owner reads it, everybody else sees only when it is and whose.";
            case READ_BY_EVERYONE -> "Logged. Everybody with access to the timeline reads it in full.";
            case READ_BY_THOSE_ON_IT ->
                "Logged. Those on it read it in full, everybody else sees only when it is and whose.";
            case RECEIVED_OFF -> "Left out: the policy does not capture mail that comes in.";
            case SENT_OFF -> "Left out: the policy does not capture mail that our people write.";
            case COVER_ENDED -> "Left out: this person’s cover ended on " + r.fact("until") + ".";
            case NOT_COVERED -> "Left out: no policy covers this person.";
            case PRIVATE_OFF -> "Left out: it is marked private, and the policy leaves such meetings out.";
            case SERIES_OFF -> "Left out: it recurs, and the policy leaves recurring meetings out.";
            case CANCELLED_KEPT -> "It was cancelled; the policy keeps it on the timeline.";
            case CANCELLED_MARKED -> "It was cancelled; the policy keeps it on the timeline, marked as cancelled.";
            case GONE_KEPT -> "It is no longer at its source; the policy keeps on the timeline what was captured.";
            case GONE_MARKED ->
                "It is no longer at its source; the policy keeps on the timeline what was captured, marked as deleted.";
            case SHARED_ADDRESS_OLDEST -> shared(r) + ": it came here first.";
            case SHARED_ADDRESS_ALL ->
                r.fact("count") + " contacts share " + r.fact("address") + "; the policy links all of them.";
            case READ_BY_TEAM ->
                "Logged. The owner’s team and those on it read it in full, everybody else sees only when it is and whose.";
            case READ_BY_OWNER -> "Logged. Its owner reads it in full, everybody else sees only when it is and whose.";
            case OWN_CHOICE_NARROWER ->
                "Logged. Its owner chose to share less than the policy: those on it read it in full, and the team if the"
                        + " owner left it to them.";
            case OWN_CHOICE_OWNER ->
                "Logged. Its owner chose to keep their items to themselves; everybody else sees only when it is and whose.";
            case NARROWEST_COUNTS ->
                "Several of our people have it, under rules of different width: the narrowest counts (read by "
                        + r.fact("readers") + ").";
            case OPENED_BY -> r.fact("by") + " opened it to " + r.fact("to") + ".";
            case CLOSED_BY -> r.fact("by") + " closed it to all but " + r.fact("to") + ".";
        };
    }

    /** What a list calls the items that a rule keeps out. */
    public static String heading(Rule rule) {
        return switch (rule) {
            case UNREADABLE -> "could not be read";
            case TOO_OLD -> "from before capture begins";
            case MAIL_OFF, MEETINGS_OFF, RECEIVED_OFF, SENT_OFF, PRIVATE_OFF, SERIES_OFF ->
                "not captured by the policy";
            case NOT_COVERED -> "person not covered";
            case COVER_ENDED -> "after the person’s cover ended";
            case CANCELLED -> "meeting cancelled";
            case GONE -> "no longer at its source";
            case BOUNCE -> "mail not delivered";
            case AUTOMATIC -> "written by a program";
            case BULK -> "sent in bulk";
            case LIST -> "through a mailing list";
            case AUTO_REPLY -> "automatic answer";
            case CARRIES_MEETING -> "mail about a meeting";
            case KEPT_OUT_BY_HAND -> "kept out by hand";
            case EXCLUDED -> "covered by an exclusion";
            case ALONE -> "nobody else on it";
            case INSIDE_ONLY -> "only our own company on it";
            default -> rule.name().toLowerCase(java.util.Locale.ROOT).replace('_', ' ');
        };
    }

    /** What somebody who does not read the item may know of its trail: no address, no name. */
    public static List<String> outline(Verdict verdict) {
        return List.of(
                switch (verdict) {
                    case LOGGED ->
                        "Logged, because somebody on it is on record. Who and what is for those who read it in full.";
                    case WAITING ->
                        "Waiting: nobody outside our company was matched. Who and what is for those who read it in full.";
                    case LEFT_OUT -> "Left out by a rule.";
                    case UNREADABLE -> "It could not be read.";
                });
    }

    private static boolean isOfPeople(String kind) {
        return kind.isEmpty() || kind.equals("address") || kind.startsWith("domain") || kind.equals("pattern");
    }

    private static String header(Reason r) {
        return r.fact("header").isEmpty() ? "" : " (header “" + r.fact("header") + "”)";
    }

    private static String shared(Reason r) {
        return r.fact("count") + " contacts share " + r.fact("address") + ". " + r.fact("contact") + " was chosen";
    }
}
