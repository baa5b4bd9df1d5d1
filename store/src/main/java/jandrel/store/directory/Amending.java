package jandrel.store.directory;

import jandrel.core.decide.Reopened;
import jandrel.store.directory.AmendingMapper.Part;
import jandrel.store.directory.DirectoryMapper.LeadState;
import jandrel.store.kernel.FileImport;
import jandrel.store.kernel.Reopener;
import jandrel.store.kernel.RulesLock;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What people change in the directory by hand, which no file takes back, and what undoes it. */
@Component
public class Amending {
    private final DirectoryMapper mapper;
    private final AmendingMapper amending;
    private final Reopener reopened;
    private final RulesLock rules;

    Amending(DirectoryMapper mapper, AmendingMapper amending, Reopener reopened, RulesLock rules) {
        this.mapper = mapper;
        this.amending = amending;
        this.reopened = reopened;
        this.rules = rules;
    }

    /**
     * Gives a contact more addresses, which no file takes away.
     *
     * @return those that the contact did not have
     */
    @Transactional
    public List<String> give(UUID contact, Collection<String> addresses) {
        rules.change();
        List<String> given = amending.giveAddresses(contact, addresses.toArray(String[]::new));
        marked(Set.copyOf(given));
        return given;
    }

    /** Takes addresses away again that somebody gave. */
    @Transactional
    public void take(UUID contact, Collection<String> addresses) {
        rules.change();
        amending.takeAddresses(contact, addresses.toArray(String[]::new));
        marked(Set.copyOf(addresses));
    }

    /**
     * Gives contacts a part in opportunities.
     *
     * @param contacts by opportunity
     * @return those who had none, likewise
     */
    @Transactional
    public Map<UUID, List<UUID>> takePart(Map<UUID, ? extends Collection<UUID>> contacts) {
        rules.change();
        List<Part> given = amending.takePart(opportunities(contacts), each(contacts));
        marked(Set.copyOf(mapper.addressesOf(given.stream().map(Part::contact).toArray(UUID[]::new))));
        return given.stream()
                .collect(Collectors.groupingBy(
                        Part::opportunity, Collectors.mapping(Part::contact, Collectors.toList())));
    }

    /** Takes their part in opportunities from contacts again. */
    @Transactional
    public void leave(Map<UUID, ? extends Collection<UUID>> contacts) {
        rules.change();
        amending.leave(opportunities(contacts), each(contacts));
        marked(Set.copyOf(mapper.addressesOf(each(contacts))));
    }

    /** As often as somebody has a part in it. */
    private static UUID[] opportunities(Map<UUID, ? extends Collection<UUID>> contacts) {
        return contacts.entrySet().stream()
                .flatMap(e -> e.getValue().stream().map(c -> e.getKey()))
                .toArray(UUID[]::new);
    }

    private static UUID[] each(Map<UUID, ? extends Collection<UUID>> contacts) {
        return contacts.values().stream().flatMap(Collection::stream).toArray(UUID[]::new);
    }

    /** Takes records out again, each by its key; accounts that something belongs to stay. */
    @Transactional
    public void remove(
            Collection<String> contacts,
            Collection<String> leads,
            Collection<String> accounts,
            Collection<String> opportunities) {
        rules.change();
        String[] o = opportunities.toArray(String[]::new);
        Set<String> touchedBefore = new HashSet<>(amending.keysOfOpportunities(o));
        amending.removeOpportunities(o);
        UUID[] c = ids(mapper.contactIds(contacts.toArray(String[]::new)));
        List<LeadState> l = mapper.leads(leads.toArray(String[]::new));
        UUID[] a = ids(mapper.accountIds(accounts.toArray(String[]::new)));
        Set<String> touched = touchedBefore;
        touched.addAll(mapper.keysOfAccounts(a));
        touched.addAll(mapper.addressesOf(c));
        l.forEach(state -> touched.addAll(List.of(state.addresses())));
        amending.removeContacts(c);
        amending.removeLeads(l.stream().map(LeadState::id).toArray(UUID[]::new));
        amending.removeAccounts(a);
        marked(touched);
    }

    private static UUID[] ids(List<FileImport.Ref> refs) {
        return refs.stream().map(FileImport.Ref::id).toArray(UUID[]::new);
    }

    private void marked(Set<String> touched) {
        reopened.mark(Reopened.records(touched));
    }
}
