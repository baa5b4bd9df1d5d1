package jandrel.api;

import java.time.Instant;
import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** Address books, and how they are kept in step with contacts. */
public final class ContactApi {
    private ContactApi() {}

    /**
     * A person's address book.
     *
     * @param direction which way contacts flow for this person: {@code none}, {@code in}, {@code out} or {@code both}
     * @param outgoing whether contacts are put into this one
     * @param held a mass removal that waits, such as {@code 12 of 40}; empty for none
     * @param alike cards that are in step, {@code pending} yet to be settled, {@code stuck} of those that could not be
     * @param apart cards that one side let go of
     * @param fresh of somebody who is no contact yet, {@code open} for a person to settle, {@code privately} private ones
     * @param asked contacts and cards that one side removed, where somebody is to say what becomes of the other
     * @param leftOut for other reasons
     * @param waits since when it waits for somebody to see what it would begin with
     * @param creates contacts it would make then, and {@code writes} cards that would be written into it
     * @param made contacts and cards that came of it, as far as they can be taken back
     * @param mayChange whether the asker may choose for it
     */
    public record BookInfo(
            int source,
            String label,
            UUID connection,
            UUID person,
            String personName,
            String account,
            String state,
            @Nullable Instant lastRun,
            String direction,
            boolean outgoing,
            String held,
            long alike,
            long pending,
            long stuck,
            long apart,
            long fresh,
            long open,
            long asked,
            long privately,
            long leftOut,
            long unreadable,
            @Nullable Instant waits,
            int creates,
            int writes,
            long made,
            boolean mayChange) {}

    /** @param says why, in a sentence */
    public record CardCount(String says, long count) {}

    /**
     * What is in a book, as a rehearsal of what would come of it: told by the cards as they were read last.
     *
     * @param cards how many of each kind, and why
     * @param creates names of the first that would become contacts
     * @param writes names of the first contacts that would be put into it
     */
    public record BookPreview(BookInfo book, List<CardCount> cards, List<String> creates, List<String> writes) {}

    /** @param contacts that were taken out of the directory, {@code cards} that are taken out of the book */
    public record BookUndone(int contacts, int cards) {}

    /**
     * A contact that a card may be of.
     *
     * @param speaks what speaks for it, as words
     */
    public record CardFits(UUID id, String name, String title, String account, String addresses, List<String> speaks) {}

    /**
     * A card that a person is to settle.
     *
     * @param why as a sentence
     */
    public record OpenCard(
            UUID id,
            String name,
            String organisation,
            String title,
            List<String> addresses,
            List<String> phones,
            String why,
            String personName,
            String book,
            List<CardFits> fits) {}

    /**
     * Whose an open card is.
     *
     * @param choice {@code contact}, {@code new} or {@code leave-out}
     * @param contact its id, for the first
     */
    public record CardChoice(String choice, @Nullable UUID contact) {}

    /**
     * A contact that one side removed, where the policy has somebody say whether the other removes it, too.
     *
     * @param contact null where it is the contact that was removed
     * @param removed {@code here} or {@code book}
     * @param elsewhere in how many other books the contact stands
     */
    public record RemovedCard(
            UUID id,
            String name,
            @Nullable UUID contact,
            String removed,
            String personName,
            String book,
            Instant since,
            long elsewhere) {}

    /**
     * What becomes of what the other side still has.
     *
     * @param ids of the removed ones
     * @param choice {@code remove} (a contact is archived, a card is taken out of its book) or {@code keep}
     */
    public record RemovedAnswer(List<UUID> ids, String choice) {}

    /** @param answered how many waited for the answer */
    public record RemovedOutcome(int answered) {}

    /**
     * What both sides changed at once.
     *
     * @param field {@code deleted} where one side removed what the other changed
     * @param stands {@code here} or {@code book}
     */
    public record CardConflict(
            UUID id,
            @Nullable UUID contact,
            String contactName,
            String personName,
            Instant at,
            String field,
            String stands,
            String here,
            String book,
            boolean canComeBack,
            @Nullable String broughtBackBy) {}

    /** @param because {@code domain} or {@code name} */
    public record LikelyAccount(String key, String name, String because) {}

    /**
     * A contact that came by a card and is at no account.
     *
     * @param domain that a new account of this company may have, as nobody else has it; may be empty
     */
    public record NoAccount(
            UUID id,
            String name,
            String organisation,
            String addresses,
            String domain,
            long version,
            List<LikelyAccount> likely) {}

    /** @param state {@code in step}, {@code to be written}, {@code waits for an answer} or {@code apart} */
    public record ContactBook(String label, String personName, String state, boolean putThere) {}

    /** @param field as people call it, such as {@code postal addresses}; {@code words}: what it says */
    public record CardFact(String field, String words) {}

    /**
     * A contact, as address books have it.
     *
     * @param facts what the directory has no column for
     * @param details all of it that can be changed here; null for what is no contact
     */
    public record ContactCard(
            List<ContactBook> books,
            List<CardFact> facts,
            @Nullable ContactMore details) {}

    /** A name in its parts (RFC 6350 §6.2.2). */
    public record ContactName(String family, String given, String additional, String prefix, String suffix) {}

    /** @param kind {@code work}, {@code home}, {@code cell}, {@code fax} or empty */
    public record OfKind(String value, String kind) {}

    /** @param kind as of {@link OfKind} */
    public record PostalAddress(String street, String town, String region, String code, String country, String kind) {}

    /**
     * What is known of a contact besides the directory's columns; what is not known is empty.
     *
     * @param unit of the company, the largest first, with semicolons between
     * @param mails the addresses of its column with their kinds, and {@code phones} its numbers: here the kinds alone can be changed
     * @param urls of the web
     * @param birthday such as {@code 1980-04-02}, or {@code --04-02} without a year
     * @param note may have several lines
     */
    public record ContactMore(
            ContactName name,
            String unit,
            String role,
            List<OfKind> mails,
            List<OfKind> phones,
            List<PostalAddress> places,
            List<OfKind> urls,
            String birthday,
            String note,
            List<String> tags) {}

    /**
     * @param seen what it was changed from, as the service answered it
     * @param over what is put in place of what somebody else changed it to meanwhile, by the columns that a refusal named
     */
    public record ContactChange(ContactMore seen, ContactMore wanted, List<String> over) {}

    /** @param categories whose cards are nobody else's business, without case */
    public record PrivateCategories(List<String> categories) {}
}
