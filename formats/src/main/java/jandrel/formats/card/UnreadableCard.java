package jandrel.formats.card;

/** A card that gives nothing to go by. The message holds none of its content. */
public final class UnreadableCard extends Exception {
    private static final long serialVersionUID = 1L;

    UnreadableCard(String why) {
        super(why);
    }
}
