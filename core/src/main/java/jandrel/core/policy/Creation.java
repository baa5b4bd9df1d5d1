package jandrel.core.policy;

import jandrel.core.triage.Stranger;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;

/**
 * What the service makes by itself of strangers whom it meets in the mail and the calendars of those the policy covers.
 *
 * @param conditions all of them must be met; with none, nobody is made anything
 */
public record Creation(Makes makes, List<Condition> conditions) {
    /** Nobody. */
    public static final Creation NONE = new Creation(Makes.NOTHING, List.of());

    /** What becomes of them. */
    public enum Makes {
        NOTHING,
        CONTACTS,
        LEADS
    }

    /** What is looked at; those that are yes or no count as 1 or 0. */
    public enum Field {
        TWO_WAY,
        AT_ACCOUNT,
        FREE_MAIL,
        MEETINGS,
        RECEIVED,
        SENT,
        ITEMS,
        PEOPLE,
        BULK;

        long of(Stranger s) {
            return switch (this) {
                case TWO_WAY -> s.isTwoWay() ? 1 : 0;
                case AT_ACCOUNT -> s.atAccount() ? 1 : 0;
                case FREE_MAIL -> s.freeMail() ? 1 : 0;
                case MEETINGS -> s.meetings();
                case RECEIVED -> s.in();
                case SENT -> s.out();
                case ITEMS -> s.items();
                case PEOPLE -> s.people();
                case BULK -> s.bulk();
            };
        }

        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    /** How it is compared. */
    public enum Comparison {
        IS,
        AT_LEAST,
        AT_MOST;

        boolean holds(long is, long than) {
            return switch (this) {
                case IS -> is == than;
                case AT_LEAST -> is >= than;
                case AT_MOST -> is <= than;
            };
        }

        public String word() {
            return name().toLowerCase(Locale.ROOT).replace('_', '-');
        }
    }

    /** Such as {@code meetings at-least 1}. */
    public record Condition(Field field, Comparison comparison, long value) {
        boolean meets(Stranger stranger) {
            return comparison.holds(field.of(stranger), value);
        }

        String words() {
            return field.word() + " " + comparison.word().replace('-', ' ') + " " + value;
        }
    }

    public Creation {
        conditions = List.copyOf(conditions);
    }

    public boolean meets(Stranger stranger) {
        return makes != Makes.NOTHING
                && !conditions.isEmpty()
                && conditions.stream().allMatch(c -> c.meets(stranger));
    }

    /** As a sentence. */
    String words() {
        if (makes == Makes.NOTHING || conditions.isEmpty()) {
            return "Nobody is made a contact or a lead without a person’s choice.";
        }
        return "Strangers become " + makes.name().toLowerCase(Locale.ROOT) + " by themselves when "
                + conditions.stream().map(Condition::words).collect(Collectors.joining(" and ")) + ".";
    }
}
