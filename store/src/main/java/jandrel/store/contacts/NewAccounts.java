package jandrel.store.contacts;

import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.ImportRejected;
import jandrel.store.directory.Directory;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.UUID;
import org.springframework.stereotype.Component;

/** Makes accounts of companies that stand on cards, where a policy says so. What is like an account already waits for a person. */
@Component
public class NewAccounts {
    /** A company of which cards name more domains than that is several. */
    private static final int MOST_DOMAINS = 5;

    private final CardMapper mapper;
    private final Directory directory;

    NewAccounts(CardMapper mapper, Directory directory) {
        this.mapper = mapper;
        this.directory = directory;
    }

    /**
     * One for each company that no account is like.
     *
     * @param cards of people who become contacts
     * @param by what made them
     */
    void of(List<ContactDetails> cards, String by) throws ImportRejected {
        Map<String, Set<String>> mails = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);
        // of two that differ in their case alone, the one that is not all in capitals
        List<String> names = cards.stream()
                .map(c -> ContactStates.line(c.organisation()))
                .filter(n -> !n.isEmpty())
                .sorted(Comparator.reverseOrder())
                .toList();
        names.forEach(n -> mails.computeIfAbsent(n, x -> new HashSet<>()));
        for (ContactDetails card : cards) {
            String name = ContactStates.line(card.organisation());
            if (!name.isEmpty()) {
                Objects.requireNonNull(mails.get(name)).addAll(card.mails().keySet());
            }
        }
        Set<DomainName> taken = new HashSet<>();
        for (Map.Entry<String, Set<String>> company : mails.entrySet()) {
            // one after the other: the next may be like this one
            if (!mapper.isLikeAnAccount(company.getKey())) {
                make(company.getKey(), company.getValue(), taken, by);
            }
        }
    }

    private void make(String name, Set<String> mails, Set<DomainName> taken, String by) throws ImportRejected {
        List<DomainName> own =
                free(mails).stream().filter(taken::add).limit(MOST_DOMAINS).toList();
        String key = "card-" + UUID.randomUUID();
        directory.accounts(List.of(new AccountRow(0, key, name, own, "", "")));
        mapper.accountsMadeBy(new String[] {key}, by);
    }

    /** Those domains of some addresses that a new account may have: nobody else's, and none under which everybody can have a name. */
    public List<DomainName> free(Collection<String> mails) {
        String[] domains = mails.stream()
                .flatMap(m -> EmailAddress.parse(m).stream())
                .map(a -> "@" + a.domain())
                .distinct()
                .toArray(String[]::new);
        return mapper.freeDomains(domains).stream()
                .flatMap(d -> DomainName.parse(d.substring(1)).stream())
                .filter(d -> !d.isPublicSuffix())
                .toList();
    }
}
