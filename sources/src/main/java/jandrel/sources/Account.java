package jandrel.sources;

/** A sign-in at a server. It never prints its secret. */
public record Account(String name, String secret) {
    @Override
    public String toString() {
        return "Account[" + name + "]";
    }
}
