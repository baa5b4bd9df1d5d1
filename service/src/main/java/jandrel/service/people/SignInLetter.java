package jandrel.service.people;

/**
 * A letter to somebody about their own sign-in; it goes out with the transaction that causes it.
 *
 * @param to their address
 * @param text without the greeting's name in it there is nothing of theirs
 * @param about what the log says of it: an id
 */
public record SignInLetter(String to, String subject, String text, String about) {
    @Override
    public String toString() {
        return "SignInLetter[" + about + "]";
    }
}
