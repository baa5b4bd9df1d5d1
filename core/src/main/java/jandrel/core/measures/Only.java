package jandrel.core.measures;

import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * What alone counts; null for all.
 *
 * @param team as it was then; empty for no team
 * @param channel empty for none
 */
public record Only(
        @Nullable UUID owner,
        @Nullable String team,
        @Nullable String channel,
        @Nullable UUID account) {
    public static final Only ALL = new Only(null, null, null, null);

    boolean isOf(UUID itsAccount) {
        return account == null || account.equals(itsAccount);
    }

    /** Of what has no channel, so that none is asked for. */
    boolean has(@Nullable UUID itsOwner, String itsTeam) {
        return has(itsOwner, itsTeam, channel == null ? "" : channel);
    }

    boolean has(@Nullable UUID itsOwner, String itsTeam, String itsChannel) {
        return (owner == null || owner.equals(itsOwner))
                && (team == null || team.equals(itsTeam))
                && (channel == null || channel.equals(itsChannel));
    }
}
