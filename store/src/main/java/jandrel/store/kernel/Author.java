package jandrel.store.kernel;

/** In whose name this thread works: what the history of records says changed something. */
public final class Author {
    private static final ThreadLocal<String> NOW = new ThreadLocal<>();

    private Author() {}

    /** From now on, until {@link #nobody}. */
    public static void is(String login) {
        NOW.set(login);
    }

    public static void nobody() {
        NOW.remove();
    }

    /** {@code service} while it works by itself. */
    public static String now() {
        String login = NOW.get();
        return login == null ? "service" : login;
    }
}
