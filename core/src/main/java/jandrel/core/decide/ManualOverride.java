package jandrel.core.decide;

/**
 * What a person chose by hand for a message in their mailbox.
 *
 * @param by what they chose it by, such as {@code keyword “crm”}, in words; never of the message itself
 */
public record ManualOverride(Choice choice, String by) {
    /** They left it to the rules. */
    public static final ManualOverride NONE = new ManualOverride(Choice.NONE, "");

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

    public static ManualOverride count(String by) {
        return new ManualOverride(Choice.COUNT, by);
    }

    public static ManualOverride unproven(String by) {
        return new ManualOverride(Choice.UNPROVEN, by);
    }

    public static ManualOverride keepOut(String by) {
        return new ManualOverride(Choice.KEEP_OUT, by);
    }
}
