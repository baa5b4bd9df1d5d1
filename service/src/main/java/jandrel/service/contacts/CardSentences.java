package jandrel.service.contacts;

import jandrel.core.contacts.CardMatch.Ground;
import jandrel.core.contacts.SortedCard.Why;

/** What becomes of cards, in words. */
final class CardSentences {
    private CardSentences() {}

    static String of(Why why) {
        return switch (why) {
            case PRIVATE -> "Left out: marked as private";
            case PRIVATE_CATEGORY -> "Left out: in a category or group that its owner calls private";
            case GROUP -> "Left out: a list of other cards";
            case NOT_CHOSEN -> "Left out: not one of the cards that come in";
            case COLLEAGUE -> "Left out: a colleague";
            case EXCLUDED -> "Left out: an address of it is excluded";
            case EMPTY -> "Left out: no name, address or telephone";
            case NOT_CREATED -> "Left out: nobody’s contact, and the policy makes none of cards";
            case ARCHIVED -> "Left out: its contact is archived";
            case CHOSEN -> "Left out: somebody chose so";
            case FITS_NOBODY -> "New: nobody’s contact yet";
            case FITS_ONE -> "A contact’s card";
            case FITS_SEVERAL -> "To settle: fits several contacts";
            case DOUBLE -> "To settle: another card of the book fits the same contact";
            case UNREADABLE -> "Unreadable";
        };
    }

    static String of(Ground ground) {
        return switch (ground) {
            case AGREED -> "the same as before";
            case ADDRESS -> "the same address";
            case TELEPHONE_AND_NAME -> "the same telephone and name";
            case NAME_AT_ACCOUNT -> "the same name at the same account";
        };
    }
}
