package jandrel.core.policy;

/** Which way something flows between the people's own programs and here. */
public enum Direction {
    NONE,
    IN,
    OUT,
    BOTH;

    public boolean comesIn() {
        return this == IN || this == BOTH;
    }

    public boolean goesOut() {
        return this == OUT || this == BOTH;
    }
}
