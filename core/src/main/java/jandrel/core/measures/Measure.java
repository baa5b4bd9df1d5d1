package jandrel.core.measures;

import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** The measures there are, each with its one definition; console, client, API and docs all print these words. */
public enum Measure {
    FIRST_MEETINGS(
            "Do people come to first meetings, and what comes of it?",
            "All meetings and calls with an account up to and including the first that was held. One that was moved counts once, where it"
                    + " stands now.",
            "Follow-ups, and meetings of accounts that were met before.",
            "Shown up: of those held or missed, the ones held. Met again, opportunity and won: of those held.",
            "The day on which it begins.",
            By.MONTH,
            By.OWNER,
            By.TEAM,
            By.CHANNEL,
            By.RESULT),
    AFTER_TWO_MEETINGS(
            "Where are opportunities after two meetings?",
            "Opportunities whose second meeting was held in this time, each by how it stands today.",
            "Opportunities with fewer than two meetings held. A meeting counts for an opportunity of its account from the day it was"
                    + " opened until it was won or lost; one that stands on the timeline of certain opportunities counts for these alone.",
            "All of them; each stands in one column: won, else lost, else agreed, else with a meeting ahead, else with nothing next.",
            "The day on which the second meeting begins.",
            By.MONTH,
            By.OWNER,
            By.TEAM,
            By.CHANNEL),
    TO_WIN(
            "How many meetings and days does it take to win?",
            "Opportunities that are won today, from the day they were opened until they were won, for the last time where one was"
                    + " reopened; and the meetings held meanwhile.",
            "Open and lost ones. One won without a meeting counts, with none.",
            "All that were won. Half of them took the median or less, a quarter the 25 % or less, three quarters the 75 % or less.",
            "The day on which it was won.",
            By.MONTH,
            By.OWNER,
            By.TEAM,
            By.CHANNEL),
    STAGES(
            "How much is in each stage, and how long does it stay?",
            "Open opportunities by their stage at the end of this time, with what they are worth; and those that came into it in this"
                    + " time, how many of these went on, and for how long they stayed.",
            "Won and lost ones. Values of several currencies, and values once and per month, are never added together.",
            "Went on: of those that came in, the ones that left it for another stage or were won.",
            "The moment of the change.",
            By.STAGE),
    LAST_TOUCH(
            "Which accounts has nobody touched?",
            "Accounts by the age of their last mail or meeting, theirs or ours; and those that have no meeting ahead.",
            "Accounts that are out of the lists.",
            "All accounts. Reply pending: the last mail is theirs, and nobody has met them since. Only theirs: none of ours is known.",
            "Days of 24 hours before now.",
            By.OWNER,
            By.TEAM),
    CONTACT(
            "How much contact is there, and by whom?",
            "Mail from customers and to them, and meetings and calls that were held or missed, each once, however many mailboxes and"
                    + " calendars have it; and the accounts that they were with.",
            "Follow-ups, meetings to come, cancelled and declined ones, and whatever stands on no timeline.",
            "Nothing is a share. A message is its author’s, another the first of ours who has it; by account, one that is with several counts"
                    + " for each.",
            "The moment it was sent, or the day on which it begins.",
            By.WEEK,
            By.MONTH,
            By.OWNER,
            By.TEAM,
            By.ACCOUNT),
    REPLY_TIMES(
            "How long do customers wait for an answer?",
            "Messages of an account to which its mail before was ours, each until the next of ours to that account, in the company’s"
                    + " working hours.",
            "What somebody at the account wrote before an answer came. After 30 days there is none; meetings answer nothing.",
            "Answered of all: of the messages. Half of the answers took the median or less, a quarter the 25 % or less, three quarters"
                    + " the 75 % or less.",
            "The moment the customer’s message was sent. It is whose who answered, else the first of ours who has it.",
            By.MONTH,
            By.WEEK,
            By.OWNER,
            By.TEAM,
            By.ACCOUNT),
    CAPTURE(
            "What was captured, what was not, and why?",
            "Decisions on mail and meetings, one for each item and mailbox or calendar that showed it, as they stand today.",
            "What lies outside the folders, calendars and days that are read.",
            "Logged of all: of what was seen.",
            "When the message was sent, or the meeting begins. Teams and policies are those of today.",
            By.WEEK,
            By.MONTH,
            By.OWNER,
            By.TEAM,
            By.POLICY,
            By.REASON),
    DECIDED_AGAIN(
            "What changed when items were decided again?",
            "Decisions whose verdict changed when a policy, an exclusion, the directory or somebody’s own choice had them made again. Each"
                    + " change counts.",
            "Decisions that came out as before, and those on items that are no longer in their mailbox or calendar.",
            "All changed decisions, which are logged now, no longer logged, or neither.",
            "The moment of the change. Versions are of the policy that its person was under then.",
            By.VERSION,
            By.WEEK,
            By.MONTH,
            By.OWNER,
            By.TEAM,
            By.REASON),
    COVERAGE(
            "Whose mail and calendars are captured?",
            "People on record at the end of each month or week, or today while it lasts; covered by a policy, and of these connected with at"
                    + " least one mailbox, calendar or address book.",
            "Whether what is connected works: that stands in Connections.",
            "Connected of all: of the people. Not connected: of the covered.",
            "The end of the month or week; of other lines, the end of the whole time.",
            By.MONTH,
            By.WEEK,
            By.TEAM,
            By.POLICY);

    /** What the lines of a measure are. */
    public enum By {
        MONTH,
        OWNER,
        TEAM,
        CHANNEL,
        STAGE,
        RESULT,
        WEEK,
        ACCOUNT,
        POLICY,
        /** Of a policy. */
        VERSION,
        /** Why something was left out. */
        REASON;

        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }

        public static Optional<By> called(String word) {
            return Arrays.stream(values()).filter(b -> b.word().equals(word)).findFirst();
        }
    }

    private final String asks;
    private final String counts;
    private final String leavesOut;
    private final String outOf;
    private final String day;

    @SuppressWarnings("ImmutableEnumChecker")
    private final List<By> by;

    Measure(String asks, String counts, String leavesOut, String outOf, String day, By... by) {
        this.asks = asks;
        this.counts = counts;
        this.leavesOut = leavesOut;
        this.outOf = outOf;
        this.day = day;
        this.by = List.of(by);
    }

    /** Such as {@code first-meetings}. */
    public String word() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    public static Optional<Measure> called(String word) {
        return Arrays.stream(values()).filter(m -> m.word().equals(word)).findFirst();
    }

    /** The question that it answers. */
    public String asks() {
        return asks;
    }

    public String counts() {
        return counts;
    }

    public String leavesOut() {
        return leavesOut;
    }

    /** Fewer than so many say little; 0 where that does not matter. */
    public int few() {
        return this == TO_WIN || this == REPLY_TIMES ? Sheet.FEW : 0;
    }

    /** The column that says most of it, for a small plot. */
    public String drawn() {
        return switch (this) {
            case FIRST_MEETINGS -> "shown up";
            case AFTER_TWO_MEETINGS -> "won of all";
            case TO_WIN -> "days, median";
            case STAGES -> "in it";
            case LAST_TOUCH -> "nothing next";
            case CONTACT -> "meetings held";
            case REPLY_TIMES -> "hours, median";
            case CAPTURE -> "seen";
            case DECIDED_AGAIN -> "changed";
            case COVERAGE -> "connected";
        };
    }

    /** Of what the shares are shares. */
    public String outOf() {
        return outOf;
    }

    /** By which day something belongs to a time. */
    public String day() {
        return day;
    }

    /** The first is what it is shown by unless somebody asks otherwise. */
    public List<By> by() {
        return by;
    }
}
