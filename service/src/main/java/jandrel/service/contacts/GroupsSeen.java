package jandrel.service.contacts;

import jandrel.core.contacts.CardGroups;
import jandrel.core.contacts.CardGroups.Group;
import jandrel.core.contacts.ContactDetails;
import jandrel.formats.mail.Phones;
import jandrel.sources.AddressBookServer;
import jandrel.store.contacts.CardIntake.FetchedCard;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The groups that are met with while cards are read, and which cards may be in them. */
final class GroupsSeen {
    private final CardGroups thought;
    final Set<String> all = new HashSet<>();
    final Map<String, Group> groups = new HashMap<>();
    private final List<Member> members = new ArrayList<>();

    /** By what groups name a card: nothing else of it is held. */
    private record Member(String href, String uid, List<String> mails) {}

    /** @param thought by which groups cards are sorted meanwhile */
    GroupsSeen(CardGroups thought) {
        this.thought = thought;
    }

    /**
     * The groups at some places of a book; what is none there counts for nothing.
     *
     * @param collection the book's href
     */
    static CardGroups at(AddressBookServer server, String collection, List<String> hrefs, Phones phones) {
        Map<String, Group> found = new HashMap<>();
        for (List<String> batch : ReadCard.batches(hrefs)) {
            ReadCard.all(batch, server.objects(collection, batch), phones)
                    .forEach(card -> card.group().ifPresent(g -> found.put(card.href(), g)));
        }
        return CardGroups.NONE.with(List.of(), found);
    }

    List<FetchedCard> fetched(List<ReadCard> cards) {
        for (ReadCard card : cards) {
            ContactDetails details = card.details();
            all.add(card.href());
            card.group().ifPresent(g -> groups.put(card.href(), g));
            if (details != null && card.group().isEmpty()) {
                members.add(new Member(
                        card.href(), card.uid(), List.copyOf(details.mails().keySet())));
            }
        }
        return cards.stream().map(c -> c.in(thought)).toList();
    }

    /** The hrefs of the cards that are in other groups than was thought. */
    List<String> othersBy(CardGroups now) {
        return members.stream()
                .filter(m -> !now.of(m.uid(), m.mails()).equals(thought.of(m.uid(), m.mails())))
                .map(Member::href)
                .toList();
    }
}
