package jandrel.core.policy;

import jandrel.core.item.MeetingItem.Sort;
import jandrel.core.policy.Creation.Comparison;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

/**
 * Which meetings with somebody from outside open an opportunity, or join the open one.
 *
 * @param conditions all of them must be met
 * @param words one of which the title has; any title where there are none
 * @param calendars in one of which the meeting stands, by name; any where there are none
 * @param kinds of what was planned
 * @param stage of an opportunity that is opened; {@code channel} likewise. Both may be empty
 * @param name of an opportunity that is opened: a pattern with {@code {account}}, {@code {with}} and {@code {title}}
 * @param makesAccounts whether an account is made where none has the guests' domain
 * @param makesContacts whether guests become contacts of the account
 * @param makesLeads whether guests whose address is at a public mail provider become leads
 * @param backDays how long ago a meeting may have begun
 * @param mostADay opportunities, accounts and leads that it makes within a day; more wait until the next
 */
public record Opening(
        Does does,
        List<Condition> conditions,
        List<String> words,
        List<String> calendars,
        Set<Sort> kinds,
        String stage,
        String channel,
        Owner owner,
        String name,
        boolean makesAccounts,
        boolean makesContacts,
        boolean makesLeads,
        int backDays,
        int mostADay) {
    public static final String ACCOUNT = "{account}";
    public static final String WITH = "{with}";
    public static final String TITLE = "{title}";

    private static final int LONGEST = 200;

    /** Meetings open and join nothing. What is set beside it is where one begins who switches it on. */
    public static final Opening NONE = new Opening(
            Does.NOTHING,
            List.of(
                    new Condition(Field.ACCEPTED, Comparison.IS, 1),
                    new Condition(Field.FIRST_MEETING, Comparison.IS, 1)),
            List.of(),
            List.of(),
            Set.of(Sort.MEETING, Sort.CALL),
            "",
            "",
            Owner.ORGANISER,
            ACCOUNT,
            false,
            true,
            false,
            7,
            50);

    /** What a meeting does. */
    public enum Does {
        NOTHING,
        /** Its guests take part in the opportunity that it is linked to. */
        JOIN,
        /** And where its account has no open one, one is opened. */
        OPEN
    }

    /** Whose an opportunity is. */
    public enum Owner {
        /** The one of ours who invited; else the first of ours. */
        ORGANISER,
        /** The account's owner; else as before. */
        ACCOUNT_OWNER,
        /** The first of ours on the meeting. */
        FIRST_OF_OURS
    }

    /** What is looked at; those that are yes or no count as 1 or 0. */
    public enum Field {
        /** Whether one of ours invited. */
        OURS_INVITED,
        /** Whether one of ours invited or said yes. */
        ACCEPTED,
        /** Whether none with that account began before it. Asked of what opens, not of what joins. */
        FIRST_MEETING,
        /** Whether the account is on record. */
        KNOWN_ACCOUNT,
        /** Participants from outside. */
        GUESTS,
        /** Participants of ours. */
        PEOPLE,
        MINUTES,
        /** Whether it is one of a series. */
        RECURRING;

        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    /** Such as {@code first-meeting is 1}. */
    public record Condition(Field field, Comparison comparison, long value) {
        public boolean holds(long is) {
            return comparison.holds(is, value);
        }

        public String words() {
            return field.word() + " " + comparison.word().replace('-', ' ') + " " + value;
        }
    }

    public Opening {
        conditions = List.copyOf(conditions);
        words = List.copyOf(words);
        calendars = List.copyOf(calendars);
        kinds = Set.copyOf(kinds);
    }

    public boolean opens() {
        return does == Does.OPEN;
    }

    /** Whether a pattern for names has something in it, and nothing else in braces but what can be filled in. */
    public static boolean fits(String pattern) {
        String rest = pattern.replace(ACCOUNT, "").replace(WITH, "").replace(TITLE, "");
        return !pattern.isBlank()
                && pattern.length() <= LONGEST
                && rest.indexOf('{') < 0
                && rest.indexOf('}') < 0
                && rest.chars().noneMatch(c -> c < ' ');
    }

    /** As sentences. */
    String sentences() {
        if (does == Does.NOTHING) {
            return "Meetings open no opportunity without a person’s choice.";
        }
        List<String> asked = new ArrayList<>();
        asked.add(new TreeSet<>(kinds).stream().map(k -> "a " + k.word()).collect(Collectors.joining(" or "))
                + " with somebody from outside");
        if (!words.isEmpty()) {
            asked.add("with “" + String.join("” or “", words) + "” in its title");
        }
        if (!calendars.isEmpty()) {
            asked.add("in a calendar called “" + String.join("” or “", calendars) + "”");
        }
        String when = conditions.isEmpty()
                ? ""
                : " when " + conditions.stream().map(Condition::words).collect(Collectors.joining(" and "));
        String opens = opens()
                ? " opens an opportunity" + when + ", or joins the open one."
                : " joins the open opportunity" + when + ".";
        String first = String.join(", ", asked) + opens;
        StringBuilder all = new StringBuilder(first.substring(0, 1).toUpperCase(Locale.ROOT) + first.substring(1));
        if (opens()) {
            all.append(" It is called “").append(name).append("”");
            all.append(stage.isEmpty() ? "" : ", begins in the stage “" + stage + "”");
            all.append(channel.isEmpty() ? "" : ", has the channel “" + channel + "”");
            all.append(" and belongs to ")
                    .append(
                            switch (owner) {
                                case ORGANISER -> "the one of ours who invited";
                                case ACCOUNT_OWNER -> "the account’s owner";
                                case FIRST_OF_OURS -> "the first of ours on the meeting";
                            })
                    .append(".");
            all.append(
                    makesAccounts
                            ? " Guests of a domain that no account has bring their account along."
                            : " Guests of a domain that no account has open nothing.");
            all.append(makesLeads ? " Guests at a public mail provider become leads." : "");
            all.append(" At most ").append(mostADay).append(" a day are made.");
        }
        all.append(makesContacts ? " Guests become contacts." : " Guests are made no contacts.");
        all.append(" Meetings count that begin from ")
                .append(backDays == 1 ? "1 day" : backDays + " days")
                .append(" ago on.");
        return all.toString();
    }
}
