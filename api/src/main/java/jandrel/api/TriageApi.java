package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Strangers, and what is done about them. */
public final class TriageApi {
    private TriageApi() {}

    /**
     * A record that a stranger may belong to.
     *
     * @param why the evidence, in words
     */
    public record LikelyInfo(String kind, UUID id, String name, String why) {}

    /**
     * @param in messages that they wrote; {@code out}: that ours wrote to them; {@code beside}: of others that they are on
     * @param items all of these, and meetings; {@code waiting}: those of them that stand on no timeline
     * @param people how many of ours have to do with them
     * @param bulk from 0 to 100: how much they look like a sender of bulk mail
     * @param likely strongest first
     */
    public record StrangerInfo(
            String address,
            String name,
            long in,
            long out,
            long beside,
            long meetings,
            long items,
            long waiting,
            long people,
            Instant first,
            Instant last,
            boolean twoWay,
            int bulk,
            List<LikelyInfo> likely) {}

    /** @param freeMail whether anybody can have an address there, so that the domain says nothing */
    public record DomainInfo(String domain, boolean freeMail, long items, long waiting, List<StrangerInfo> strangers) {}

    /** @param total of all strangers, not only of those on the page */
    public record StrangerPage(long total, long waiting, List<DomainInfo> domains) {}

    /**
     * @param choice {@code contact} (another address of one), {@code new-contact}, {@code new-lead}, {@code new-account},
     *     {@code new-opportunity} (with them as its contacts), {@code exclude} or {@code not-interesting}
     * @param domains all strangers under these are meant as well
     * @param record the contact, or the account of new contacts; null for the likely account, or none
     * @param name of the new account or of a single new record; null for what is seen
     */
    public record Choice(
            String choice,
            List<String> addresses,
            List<String> domains,
            @Nullable UUID record,
            @Nullable String name) {}

    /**
     * A record to be made of what an activity shows.
     *
     * @param kind {@code contact}, {@code lead}, {@code account} or {@code opportunity}
     * @param address of a contact or a lead
     * @param account of a contact, or of an opportunity, which needs one; null for the one that has the address’s domain, or none
     * @param domain of an account; null for none
     * @param phones a contact’s telephone numbers; null for none
     * @param item the activity that it is made from, which is tied to it; null for none
     */
    public record NewRecord(
            String kind,
            String name,
            @Nullable String address,
            @Nullable UUID account,
            @Nullable String domain,
            @Nullable List<String> phones,
            @Nullable UUID item) {}

    /** @param reconsidering how many decisions are made again because of it */
    public record MadeRecord(UUID id, String kind, String name, UUID deed, String says, long reconsidering) {}

    /** @param items how many items are decided again */
    public record Settled(UUID deed, String says, long strangers, long items) {}

    public record DeedInfo(UUID id, Instant at, String by, String says, boolean undone) {}

    /**
     * Two contacts, or two accounts, that may be one.
     *
     * @param kind {@code contact} or {@code account}
     * @param oneAddress one of their addresses, or of its domains; empty for none
     * @param account of contacts; empty for none
     */
    public record TwinsInfo(
            String kind,
            UUID one,
            String oneName,
            String oneAddress,
            UUID other,
            String otherName,
            String otherAddress,
            String account,
            String why) {}

    /** Two contacts, or two accounts, that are not one. */
    public record TwoPeople(UUID one, UUID other) {}

    /** @param goes a contact, an account or a lead, which becomes a part of {@code stays}, of the same kind */
    public record Merge(UUID stays, UUID goes) {}

    /** @param record what an activity is tied to by somebody's choice */
    public record Pin(UUID record) {}
}
