package jandrel.core.visibility;

/** What somebody may do here. It gives no right to read: that is {@link Visibility}'s alone. */
public enum Role {
    ADMINISTRATOR,
    MANAGER,
    REP,
    AUDITOR;

    /** Whether what somebody in this role oversees can be limited to teams. */
    public boolean isLimitable() {
        return this == MANAGER || this == AUDITOR;
    }
}
