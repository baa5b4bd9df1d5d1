package jandrel.core.decide;

/**
 * What a person chose by hand for a message in their mailbox.
 *
 * @param by what they chose it by, such as {@code keyword “crm”}, in words; never of the message itself
 */
public record Hand(Choice choice, String by) {
    /** They left it to the rules. */
    public static final Hand NONE = new Hand(Choice.NONE, "");

    /** One of three. */
    public enum Choice {
        NONE,
        /** It counts, whatever the rules for mail that a program wrote would say. */
        COUNT,
        /** It stays out. */
        KEEP_OUT,
        /** It was handed over in their name, and nothing proves that it was they: it waits. */
        UNPROVEN
    }

    public static Hand count(String by) {
        return new Hand(Choice.COUNT, by);
    }

    public static Hand unproven(String by) {
        return new Hand(Choice.UNPROVEN, by);
    }

    public static Hand keepOut(String by) {
        return new Hand(Choice.KEEP_OUT, by);
    }
}
