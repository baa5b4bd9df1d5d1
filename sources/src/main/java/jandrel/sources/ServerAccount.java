package jandrel.sources;

/**
 * A sign-in at a server. It never prints its secret.
 *
 * @param name the account
 * @param secret a password, or an access token
 * @param master the organisation's master sign-in that opens the account with its own password; empty for none
 */
public record ServerAccount(String name, String secret, String master, boolean bearer) {
    public ServerAccount(String name, String secret) {
        this(name, secret, "", false);
    }

    /** By the organisation's sign-in for all accounts. */
    public static ServerAccount asMaster(String name, String master, String secret) {
        return new ServerAccount(name, secret, master, false);
    }

    /** By an access token (RFC 6750; RFC 7628 for mail). */
    public static ServerAccount withToken(String name, String token) {
        return new ServerAccount(name, token, "", true);
    }

    /** What is given as the user's name. */
    String login() {
        return master.isEmpty() ? name : name + "*" + master;
    }

    @Override
    public String toString() {
        return "Account[" + name + "]";
    }
}
