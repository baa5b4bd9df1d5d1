package jandrel.api;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Contacts, leads, accounts and opportunities. */
public final class RecordApi {
    private RecordApi() {}

    /**
     * @param kind {@code contact}, {@code lead}, {@code account} or {@code opportunity}
     * @param account of a contact or an opportunity; of an account that is a part of another, that one
     * @param addresses a contact's or lead's mail addresses, an account's domains
     * @param archived whether it is out of the lists; what is exchanged with it is logged all the same
     * @param phones a contact's telephone numbers (RFC 3966, digits alone)
     */
    public record RecordInfo(
            String kind,
            UUID id,
            String key,
            String name,
            String detail,
            @Nullable UUID account,
            String accountName,
            String owner,
            String stage,
            String state,
            @Nullable BigDecimal value,
            String currency,
            List<String> addresses,
            List<String> phones,
            boolean archived,
            long activities,
            @Nullable Instant lastTouch,
            @Nullable Instant nextMeeting) {}

    /**
     * @param touched how many were last touched when: {@code day}, {@code week}, {@code month}, {@code quarter}, {@code longer}, {@code never};
     *     each without those before it
     * @param nothingNext how many have no meeting ahead
     */
    public record TouchCounts(Map<String, Long> touched, long nothingNext) {}

    public record RecordPage(long total, List<RecordInfo> records) {}
}
