package jandrel.api;

/** What is captured, and who reads it. */
public final class Policies {
    private Policies() {}

    /**
     * @param version the one that a change is made from; another's change in between is refused
     * @param sharing {@code everyone} reads in full, or {@code those-on-it} do and everybody else gets the outline
     */
    public record PolicyInfo(
            int version, boolean mail, boolean meetings, int backDays, int aheadDays, String sharing) {}
}
