package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** What is captured for whom, and who reads it. */
public final class PolicyApi {
    private PolicyApi() {}

    /** @param people keys of people; with {@code everyone} the lists only say why somebody is covered */
    public record AudienceInfo(boolean everyone, List<String> people, List<String> teams, List<String> roles) {}

    /**
     * Everything that a policy says.
     *
     * @param received whether mail that comes in is captured; {@code sent}: mail that our people write
     * @param meetings which way they flow: {@code none}, {@code in}, {@code out} or {@code both}
     * @param contacts likewise, between address books and here
     * @param privateItems {@code outline} or {@code leave-out}
     * @param cancelled {@code keep}, {@code mark} or {@code remove}; {@code deleted} likewise
     * @param deletedMail likewise, for mail that its owner deleted or filed where nothing is captured; {@code keep} when it is absent
     * @param loggedKeyword the IMAP keyword that messages get in their mailbox once they are logged; empty for none
     * @param series {@code each-occurrence} or {@code leave-out}
     * @param matched the kinds of record that links may lead to: {@code contact}, {@code lead}, {@code account},
     *     {@code opportunity}
     * @param tieBreak {@code owner-then-recent}, {@code most-recent}, {@code oldest}, {@code first} or {@code all}
     * @param forwarded whether the author of a message that was passed on by hand counts as if on it
     * @param sharing {@code everyone}, {@code team}, {@code those-on-it} or {@code owner}
     * @param everyMinutes between two looks; 0 for the service's own pace
     * @param days {@code monday} to {@code sunday}; empty for every day
     * @param times such as {@code 07:30}, in UTC; empty when the minutes count
     * @param outward what of that which is made here goes out to calendars: {@code meeting}, {@code call}, {@code follow-up}
     * @param keeping how; the safe way when it is absent
     * @param folders which folders of mailboxes are looked at; inbox, sent mail and archive when it is absent
     * @param books which cards and contacts, where contacts flow; the safe way when it is absent
     * @param opening which meetings open opportunities; none when it is absent
     */
    // the words of kinds are no parameters
    @SuppressWarnings("InvalidParam")
    public record PolicyRules(
            String name,
            AudienceInfo audience,
            boolean received,
            boolean sent,
            String meetings,
            String contacts,
            int backDays,
            int aheadDays,
            String privateItems,
            String cancelled,
            String deleted,
            @Nullable String deletedMail,
            @Nullable String loggedKeyword,
            String series,
            List<String> matched,
            String tieBreak,
            @Nullable Boolean forwarded,
            String sharing,
            int everyMinutes,
            List<String> days,
            List<String> times,
            List<String> outward,
            @Nullable KeepingRules keeping,
            @Nullable FolderRules folders,
            @Nullable CreationRules creation,
            @Nullable BookRule books,
            @Nullable OpeningRules opening) {}

    /**
     * Which meetings with somebody from outside open an opportunity; none if it is missing.
     *
     * @param does {@code nothing}, {@code join} (guests take part in the one open opportunity) or {@code open} (and where there is none, one
     *     is opened)
     * @param conditions all of which must be met; their fields are {@code ours-invited}, {@code accepted}, {@code first-meeting},
     *     {@code known-account}, {@code recurring} (each 1 or 0), {@code guests}, {@code people} and {@code minutes}
     * @param words one of which the title has; any title where there are none
     * @param calendars names, in one of which the meeting stands; any where there are none
     * @param kinds {@code meeting}, {@code call}, {@code follow-up}
     * @param stage of an opportunity that is opened; {@code new} if it is empty
     * @param owner {@code organiser}, {@code account-owner} or {@code first-of-ours}
     * @param name a pattern with {@code {account}}, {@code {with}} or {@code {title}}, which is left out where not all may read the meeting
     * @param makesAccounts whether an account is made where none has the guests' domain
     * @param makesContacts whether guests become contacts
     * @param makesLeads whether guests at public mail providers become leads, where nobody else is on the meeting
     * @param backDays how many days ago a meeting may have begun
     * @param mostADay what is made within a day at most
     */
    public record OpeningRules(
            String does,
            List<ConditionRule> conditions,
            List<String> words,
            List<String> calendars,
            List<String> kinds,
            String stage,
            String channel,
            String owner,
            String name,
            boolean makesAccounts,
            boolean makesContacts,
            boolean makesLeads,
            int backDays,
            int mostADay) {}

    /** @param days how many days back meetings are looked at */
    public record OpeningTrial(OpeningRules rules, int days) {}

    /**
     * What meetings would have done.
     *
     * @param hidden of these, those that the asker may not read, where they are several
     * @param meetings the first of those that the asker reads, those that do something before others
     */
    public record WouldOpen(
            String from,
            String until,
            long opened,
            long joined,
            long leads,
            long nothing,
            long hidden,
            List<OpeningInfo> meetings) {}

    /**
     * What one meeting does, or did.
     *
     * @param did {@code opened}, {@code joined}, {@code leads}, {@code nothing}, {@code waits} (until tomorrow), {@code undone}, or empty where it was not looked at
     * @param account its name, or the domain of one that would be made; empty for none
     * @param policy its name; empty in a trial
     */
    public record OpeningInfo(
            @Nullable UUID item,
            @Nullable Instant at,
            String title,
            String did,
            String account,
            @Nullable UUID opportunity,
            String name,
            String policy,
            String why) {}

    /**
     * What a card or a contact must be; without case and accents.
     *
     * @param field {@code name}, {@code organisation}, {@code unit}, {@code title}, {@code role}, {@code mail}, {@code telephone}, {@code place},
     *     {@code web-address}, {@code birthday}, {@code category} or {@code note}
     * @param comparison {@code is}, {@code is-not}, {@code contains}, {@code contains-not}, {@code begins-with}, {@code ends-with}, {@code empty} or
     *     {@code filled}
     * @param value with what it is compared; empty for the last two
     */
    public record BookConditionRule(String field, String comparison, String value) {}

    /**
     * Which cards come in from address books, and which contacts go out to them.
     *
     * @param takes {@code all}, {@code categories} or {@code conditions}
     * @param categories of those cards, where only some come in
     * @param creates whether somebody who is in a book alone becomes a contact
     * @param gives {@code all}, {@code own-accounts}, {@code recent} or {@code conditions}
     * @param recentDays how many days back, for {@code recent}
     * @param most contacts that go out to one book
     * @param askAbove how many new contacts and cards a book may bring at once without anybody having seen it
     * @param removedThere what becomes of a contact whose card is removed: {@code keep}, {@code remove}, which archives it, or {@code ask}
     * @param removedHere what becomes of the cards of a contact that is removed: {@code keep}, {@code remove} or {@code ask}
     * @param takesIf alternatives, of one of which a card must meet all conditions; null for none
     * @param givesIf likewise of contacts
     * @param makesAccounts whether their company becomes an account, where there is none like it; null for no
     * @param ownBook the name of a book of its own that contacts are put into, which is made where there is none; null or empty for the
     *     person's own book
     */
    public record BookRule(
            String takes,
            List<String> categories,
            boolean creates,
            String gives,
            int recentDays,
            int most,
            int askAbove,
            String removedThere,
            String removedHere,
            @Nullable List<List<BookConditionRule>> takesIf,
            @Nullable List<List<BookConditionRule>> givesIf,
            @Nullable Boolean makesAccounts,
            @Nullable String ownBook) {}

    /**
     * What becomes of strangers without a person's choice; nothing if it is missing.
     *
     * @param makes {@code nothing}, {@code contacts} or {@code leads}
     * @param conditions all of which must be met; with none, nobody is made anything
     */
    public record CreationRules(String makes, List<ConditionRule> conditions) {}

    /**
     * @param field {@code two-way}, {@code at-account}, {@code free-mail} (each 1 or 0), {@code meetings}, {@code received},
     *     {@code sent}, {@code items}, {@code people}, {@code bulk} (0 to 100)
     * @param comparison {@code is}, {@code at-least} or {@code at-most}
     */
    public record ConditionRule(String field, String comparison, long value) {}

    /**
     * Whom a policy would make something of now.
     *
     * @param strangers the first of them, as addresses with names
     */
    public record WouldMake(long total, List<String> strangers) {}

    /**
     * Which folders are looked at where a mailbox's owner has not chosen; drafts, junk and trash never are.
     *
     * @param include roles ({@code inbox}, {@code sent}, {@code archive}) and names, with {@code *} for any characters
     * @param exclude likewise; what both name is left alone
     */
    public record FolderRules(List<String> include, List<String> exclude) {}

    /**
     * How what is made here is kept in step with calendars.
     *
     * @param title how it is called there: a pattern with {@code {title}}, and perhaps {@code {account}} and {@code {with}}
     * @param calendarRings whether the calendar rings the reminder
     * @param wins whose value stands where both sides changed the same: {@code here}, {@code calendar} or {@code later}
     * @param deletionWins whether a deletion stands against a change of the other side
     * @param deletedHere what becomes of the calendar's own: {@code remove}, {@code cancel} or {@code keep}
     * @param asks whether guests are asked, unless the maker says otherwise; not if it is missing
     * @param missed words of a title or a category that say that a meeting did not take place; none if it is missing
     */
    public record KeepingRules(
            String title,
            boolean calendarRings,
            String wins,
            boolean deletionWins,
            String deletedHere,
            @Nullable Boolean asks,
            @Nullable List<String> missed) {}

    /**
     * @param covers whom, in words
     * @param sentences what it says, one setting a sentence
     * @param notActiveYet why it cannot be switched on; empty when it can
     * @param people how many it covers
     */
    public record PolicyInfo(
            UUID id,
            int version,
            PolicyRules rules,
            boolean enabled,
            boolean archived,
            String covers,
            List<String> sentences,
            List<String> notActiveYet,
            long people,
            String changedBy,
            Instant changedAt) {}

    /** @param version the one that the change is made from; another's change in between is refused */
    public record PolicyChange(int version, PolicyRules rules) {}

    /**
     * What the company's policy does for whoever asks.
     *
     * @param name null where none covers them
     * @param sentences one setting a sentence
     */
    public record OwnPolicy(@Nullable String name, List<String> sentences) {}

    /** @param differences to the version before it, in sentences */
    public record VersionInfo(
            int version, String changedBy, Instant changedAt, List<String> differences, PolicyRules rules) {}

    /** A policy in a file, by its name. */
    public record FilePolicy(boolean enabled, PolicyRules rules) {}

    /** @param policies in their order; those of other names stay as they are, behind these */
    public record PoliciesFile(List<FilePolicy> policies) {}

    /** @param ids all policies that are not archived, the first one first */
    public record PolicyOrder(List<UUID> ids) {}

    /**
     * A person, and how capture stands for them.
     *
     * @param state {@code capturing}, {@code not-connected}, {@code not-covered}, {@code switched-off}, {@code ended}, or the worst
     *     state of the person's connections
     * @param why what of the policy's audience has the person, or why none has
     * @param silentDays whole days since their newest item; null when there is none
     */
    public record CoverageInfo(
            UUID id,
            String key,
            String name,
            String team,
            String role,
            List<String> addresses,
            @Nullable UUID policy,
            @Nullable String policyName,
            boolean covered,
            String why,
            String state,
            @Nullable String coverUntil,
            String sharing,
            @Nullable Instant lastItem,
            @Nullable Long silentDays) {}

    /** @param until such as {@code 2026-12-31}: nothing from this day on is captured; null for no end */
    public record CoverEnd(@Nullable String until) {}

    /** @param sharing {@code everyone} (as the policy says), {@code team}, {@code those-on-it} or {@code owner} */
    public record OwnSharing(String sharing) {}
}
