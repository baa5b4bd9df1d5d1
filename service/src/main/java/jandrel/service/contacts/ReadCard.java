package jandrel.service.contacts;

import jandrel.core.contacts.CardGroups;
import jandrel.core.contacts.CardGroups.Group;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.SortedCard.Facts;
import jandrel.core.policy.BookRules;
import jandrel.formats.card.CardFile;
import jandrel.formats.card.UnreadableCard;
import jandrel.formats.mail.Phones;
import jandrel.sources.DavObject;
import jandrel.store.contacts.CardIntake.FetchedCard;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a server has at one place, read.
 *
 * @param details null for what is no card
 * @param group where it is a list of other cards
 */
record ReadCard(
        String href,
        String tag,
        String uid,
        boolean isPrivate,
        @Nullable ContactDetails details,
        Optional<Group> group) {
    static final int BATCH = 100;

    private static ReadCard of(DavObject object, Phones phones) {
        String tag = object.tag().isEmpty() ? "?" : object.tag();
        try {
            return of(CardFile.read(object.bytes(), phones), object.href(), tag);
        } catch (UnreadableCard broken) {
            return new ReadCard(object.href(), tag, "", false, null, Optional.empty());
        }
    }

    /** Each that was asked for, once, whatever the server answers. */
    static List<ReadCard> all(Collection<String> asked, List<DavObject> answered, Phones phones) {
        Map<String, DavObject> found = new HashMap<>();
        Set<String> wanted = Set.copyOf(asked);
        answered.stream().filter(o -> wanted.contains(o.href())).forEach(o -> found.put(o.href(), o));
        return found.values().stream().map(o -> of(o, phones)).toList();
    }

    /** As many as are asked for at once. */
    static List<List<String>> batches(List<String> hrefs) {
        List<List<String>> batches = new ArrayList<>();
        for (int from = 0; from < hrefs.size(); from += BATCH) {
            batches.add(hrefs.subList(from, Math.min(hrefs.size(), from + BATCH)));
        }
        return batches;
    }

    static ReadCard of(CardFile file, String href, String tag) throws UnreadableCard {
        ContactDetails details = file.details();
        Optional<Group> group =
                file.isGroup() ? Optional.of(new Group(details.name(), Set.copyOf(file.members()))) : Optional.empty();
        return new ReadCard(href, tag, file.uid(), file.isPrivate(), details, group);
    }

    private @Nullable Facts facts(CardGroups groups) {
        ContactDetails all = details;
        return all == null
                ? null
                : new Facts(
                        all,
                        isPrivate,
                        group.isPresent(),
                        groups.of(uid, all.mails().keySet()));
    }

    /** @param privately categories that its owner calls private, in lower case */
    boolean isOwnBusiness(Set<String> privately, CardGroups groups) {
        Facts facts = facts(groups);
        return facts != null && (isPrivate || BookRules.meet(privately, facts.categories()));
    }

    FetchedCard in(CardGroups groups) {
        return new FetchedCard(href, tag, facts(groups));
    }
}
