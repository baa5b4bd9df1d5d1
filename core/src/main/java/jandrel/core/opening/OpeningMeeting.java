package jandrel.core.opening;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Insider;
import jandrel.core.item.MeetingItem;
import jandrel.core.item.Party;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
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
 * @param ours in the order in which they are on it, without those who stay away
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
     * @param key of the account that they stand for: its id, or the domain of one that is not on record; empty for none
     * @param domain the registered one
     * @param invited whether they did
     */
    public record Guest(
            EmailAddress address,
            String name,
            @Nullable UUID contact,
            boolean lead,
            @Nullable Account account,
            String key,
            String domain,
            boolean freeMail,
            boolean invited) {
        boolean isStranger() {
            return contact == null && !lead;
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
            if (!party.isPerson()) {
                continue;
            }
            Optional<Insider> insider = slice.insider(party.address());
            if (!slice.isInside(party.address())) {
                guests.merge(
                        party.address(),
                        guest(party, slice, facts),
                        (a, b) -> a.name().isEmpty() || b.invited() ? b : a);
            } else if (!party.part().staysAway() && insider.isPresent()) {
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
        EmailAddress address = known(party.address(), slice);
        Contact contact = slice.contacts(address).stream()
                .min(Comparator.comparing(Contact::key))
                .orElse(null);
        boolean free = slice.isFreeMail(address);
        String domain = DomainName.parse(address.domain())
                .map(d -> d.registrable().toString())
                .orElse(address.domain());
        Account account = contact == null
                ? free
                        ? null
                        : slice.accountByDomain(address)
                                .map(DirectorySlice.DomainHit::account)
                                .orElse(null)
                : contact.stayOn(facts.at().atOffset(ZoneOffset.UTC).toLocalDate())
                        .map(Contact.Stay::account)
                        .orElse(contact.account());
        boolean lead = contact == null && !slice.leads(address).isEmpty();
        String key = account != null ? account.id().toString() : free || contact != null || lead ? "" : "@" + domain;
        return new Guest(
                address,
                party.name(),
                contact == null ? null : contact.id(),
                lead,
                account,
                key,
                domain,
                free,
                party.part() == Party.Part.ORGANISER);
    }

    /** As the directory writes it. */
    private static EmailAddress known(EmailAddress address, DirectorySlice slice) {
        if (!slice.contacts(address).isEmpty() || !slice.leads(address).isEmpty()) {
            return address;
        }
        return address.withoutDetail()
                .filter(a -> !slice.contacts(a).isEmpty() || !slice.leads(a).isEmpty())
                .or(() -> slice.otherForm(address))
                .orElse(address);
    }
}
