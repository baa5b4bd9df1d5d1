package jandrel.core.opening;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Insider;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * A meeting as far as it can open or join an opportunity.
 *
 * @param item its key
 * @param calendar the name of the calendar that showed it
 * @param kept whether somebody keeps it to themselves, so that nothing may be made of it that others see
 * @param forAll whether everybody may read its title
 * @param linked the open opportunity that it is linked to
 * @param ours in the order in which they are on it, without those who declined; {@code guests} likewise
 * @param organiser the one of ours who invited; null where somebody else did
 * @param accepted whether one of ours invited or said yes
 */
public record OpeningMeeting(
        UUID item,
        MeetingItem facts,
        String calendar,
        boolean kept,
        boolean forAll,
        @Nullable UUID linked,
        List<UUID> ours,
        @Nullable UUID organiser,
        boolean accepted,
        List<Guest> guests) {
    /** By whose calendar it was seen, and how it stands on timelines. */
    public record Shown(
            UUID person,
            String calendar,
            boolean kept,
            boolean forAll,
            @Nullable UUID linked) {}

    /**
     * Somebody from outside.
     *
     * @param contact who they are, where one contact alone has the address
     * @param recorded whether the address is a contact's or a lead's
     * @param key of the account that they stand for: its id, or the domain of one that is not on record; empty for none
     * @param domain the registered one
     * @param invited whether they did
     */
    public record Guest(
            EmailAddress address,
            String name,
            @Nullable UUID contact,
            boolean recorded,
            @Nullable Account account,
            String key,
            String domain,
            boolean freeMail,
            boolean invited) {
        boolean isStranger() {
            return !recorded;
        }
    }

    public OpeningMeeting {
        ours = List.copyOf(ours);
        guests = List.copyOf(guests);
    }

    /** @param shown by whose calendar, and how it stands on timelines */
    public static OpeningMeeting of(UUID item, MeetingItem facts, DirectorySlice slice, Shown shown) {
        List<UUID> ours = new ArrayList<>();
        Map<EmailAddress, Guest> guests = new LinkedHashMap<>();
        UUID organiser = null;
        boolean asked = false;
        boolean accepted = false;
        for (Party party : facts.parties()) {
            boolean invites = party.part() == Party.Part.ORGANISER;
            asked |= invites;
            if (!party.isPerson() || party.part().staysAway()) {
                continue;
            }
            Optional<Insider> insider = slice.insider(party.address());
            if (!slice.isInside(party.address())) {
                guests.merge(
                        party.address(),
                        guest(party, slice, facts),
                        (a, b) -> a.name().isEmpty() || b.invited() ? b : a);
            } else if (insider.isPresent()) {
                if (!ours.contains(insider.get().id())) {
                    ours.add(insider.get().id());
                }
                accepted |= invites || party.part() == Party.Part.ACCEPTED;
                organiser = invites ? insider.get().id() : organiser;
            }
        }
        if (!asked) {
            // with no organiser named it is its owner's own
            organiser = shown.person();
            accepted = true;
        }
        if (ours.isEmpty()) {
            ours.add(shown.person());
        }
        return new OpeningMeeting(
                item,
                facts,
                shown.calendar(),
                shown.kept() || facts.privacy() != MeetingItem.Privacy.PUBLIC,
                shown.forAll(),
                shown.linked(),
                ours,
                organiser,
                accepted,
                new ArrayList<>(guests.values()));
    }

    private static Guest guest(Party party, DirectorySlice slice, MeetingItem facts) {
        EmailAddress address = slice.recorded(party.address()).orElse(party.address());
        List<Contact> contacts = slice.contacts(address);
        boolean free = slice.isFreeMail(address);
        String domain = DomainName.registered(address.domain());
        boolean recorded = slice.recorded(address).isPresent();
        Account account = account(address, contacts, slice, facts);
        String key = account != null ? account.id().toString() : recorded || free ? "" : "@" + domain;
        return new Guest(
                address,
                party.name(),
                contacts.size() == 1 ? contacts.get(0).id() : null,
                recorded,
                account,
                key,
                domain,
                free,
                party.part() == Party.Part.ORGANISER);
    }

    /** Their contacts', else their domain's; where several share the address and are not at one account, who it was cannot be told. */
    private static @Nullable Account account(
            EmailAddress address, List<Contact> contacts, DirectorySlice slice, MeetingItem facts) {
        if (contacts.isEmpty()) {
            return slice.isFreeMail(address)
                    ? null
                    : slice.accountByDomain(address)
                            .map(DirectorySlice.DomainHit::account)
                            .orElse(null);
        }
        LocalDate day = facts.at().atOffset(ZoneOffset.UTC).toLocalDate();
        Set<@Nullable Account> theirs = new HashSet<>();
        contacts.forEach(
                c -> theirs.add(c.stayOn(day).map(Contact.Stay::account).orElse(c.account())));
        return theirs.size() == 1 ? theirs.iterator().next() : null;
    }
}
