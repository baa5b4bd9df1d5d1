package jandrel.core.decide;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Link.Evidence;
import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Opportunity;
import jandrel.core.directory.RecordKind;
import jandrel.core.policy.Ties;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/** Ties the outsiders of one item to records, address by address, and keeps the reasons. Used once, by one thread. */
final class Matching {
    private static final Comparator<Contact> MOST_RECENT_FIRST = Comparator.comparing(
                    (Contact c) -> c.lastActive() == null ? LocalDate.MIN : c.lastActive())
            .reversed()
            .thenComparing(Contact::key);

    private static final Comparator<Contact> BY_KEY = Comparator.comparing(Contact::key);

    private final DirectorySlice slice;
    private final Set<UUID> insiders;
    private final Ties ties;
    private final List<Reason> trail = new ArrayList<>(4);
    private final Map<UUID, Link> links = new LinkedHashMap<>(6);

    Matching(DirectorySlice slice, Set<UUID> insiders, Ties ties) {
        this.ties = ties;
        this.slice = slice;
        this.insiders = insiders;
    }

    List<Reason> trail() {
        return trail;
    }

    /** In an order of their own, so that the same item gives the same list whoever is named first on it. */
    List<Link> links() {
        List<Link> sorted = new ArrayList<>(links.values());
        sorted.sort(null);
        return sorted;
    }

    void match(EmailAddress address) {
        List<Contact> sharing = slice.contacts(address);
        if (!sharing.isEmpty()) {
            matchContact(address, sharing);
            return;
        }
        Optional<EmailAddress> plain =
                address.withoutDetail().filter(a -> !slice.contacts(a).isEmpty());
        if (plain.isPresent()) {
            trail.add(Reason.of(
                    Rule.WITHOUT_DETAIL,
                    "address",
                    address.toString(),
                    "plain",
                    plain.get().toString()));
            matchContact(plain.get(), slice.contacts(plain.get()));
            return;
        }
        if (slice.isFreeMail(address)) {
            trail.add(Reason.of(Rule.FREE_MAIL, "address", address.toString(), "domain", address.domain()));
            return;
        }
        Optional<DirectorySlice.DomainHit> hit = slice.accountByDomain(address);
        if (hit.isPresent()) {
            Account account = hit.get().account();
            trail.add(Reason.of(
                    Rule.ACCOUNT_DOMAIN,
                    "address",
                    address.toString(),
                    "domain",
                    hit.get().domain(),
                    "account",
                    account.name()));
            linkAccount(account, Evidence.DOMAIN);
        } else {
            trail.add(Reason.of(Rule.UNKNOWN_ADDRESS, "address", address.toString()));
        }
    }

    private void matchContact(EmailAddress address, List<Contact> sharing) {
        if (sharing.size() == 1) {
            tie(single(address, sharing.get(0)));
        } else if (ties.tieBreak() == Ties.TieBreak.ALL) {
            trail.add(Reason.of(
                    Rule.SHARED_ADDRESS_ALL, "address", address.toString(), "count", String.valueOf(sharing.size())));
            sharing.stream().sorted(BY_KEY).forEach(this::tie);
        } else {
            tie(choose(address, sharing));
        }
    }

    private void tie(Contact contact) {
        link(new Link(RecordKind.CONTACT, contact.id(), Evidence.ADDRESS));
        Account account = contact.account();
        if (account != null) {
            trail.add(Reason.of(Rule.ACCOUNT_OF_CONTACT, "contact", contact.name(), "account", account.name()));
            linkAccount(account, Evidence.CONTACT);
        }
    }

    private Contact single(EmailAddress address, Contact contact) {
        trail.add(Reason.of(Rule.CONTACT_ADDRESS, "address", address.toString(), "contact", contact.name()));
        return contact;
    }

    /** Several contacts have this address: the one that the policy's tie-break prefers. */
    private Contact choose(EmailAddress address, List<Contact> sharing) {
        Comparator<Contact> order = ties.tieBreak() == Ties.TieBreak.FIRST ? BY_KEY : MOST_RECENT_FIRST;
        List<Contact> ranked = sharing.stream().sorted(order).toList();
        List<Contact> owned = ties.tieBreak() == Ties.TieBreak.OWNER_THEN_RECENT
                ? ranked.stream().filter(this::ownerIsOnIt).toList()
                : List.of();
        Contact chosen = owned.isEmpty() ? ranked.get(0) : owned.get(0);
        Rule rule = owned.size() == 1 ? Rule.SHARED_ADDRESS_OWNER : recencyRule(owned.isEmpty() ? ranked : owned);
        String active = chosen.lastActive() == null ? "" : chosen.lastActive().toString();
        trail.add(Reason.of(
                rule,
                Map.of(
                        "address", address.toString(),
                        "contact", chosen.name(),
                        "count", String.valueOf(sharing.size()),
                        "active", active)));
        return chosen;
    }

    private boolean ownerIsOnIt(Contact contact) {
        Account account = contact.account();
        return account != null && account.owner() != null && insiders.contains(account.owner());
    }

    private Rule recencyRule(List<Contact> ranked) {
        if (ties.tieBreak() == Ties.TieBreak.FIRST) {
            return Rule.SHARED_ADDRESS_FIRST;
        }
        LocalDate first = ranked.get(0).lastActive();
        return first != null && !first.equals(ranked.get(1).lastActive())
                ? Rule.SHARED_ADDRESS_RECENT
                : Rule.SHARED_ADDRESS_FIRST;
    }

    private void linkAccount(Account account, Evidence evidence) {
        boolean isNew = link(new Link(RecordKind.ACCOUNT, account.id(), evidence));
        if (!isNew || !ties.kinds().contains(RecordKind.OPPORTUNITY)) {
            return;
        }
        List<Opportunity> open = slice.openOpportunities(account.id());
        switch (open.size()) {
            case 0 -> trail.add(Reason.of(Rule.NO_OPPORTUNITY, "account", account.name()));
            case 1 -> {
                trail.add(Reason.of(
                        Rule.ONLY_OPPORTUNITY,
                        "account",
                        account.name(),
                        "opportunity",
                        open.get(0).name()));
                link(new Link(RecordKind.OPPORTUNITY, open.get(0).id(), Evidence.ONLY_OPEN));
            }
            default ->
                trail.add(Reason.of(
                        Rule.SEVERAL_OPPORTUNITIES, "account", account.name(), "count", String.valueOf(open.size())));
        }
    }

    /** Keeps the stronger evidence for one record. */
    private boolean link(Link link) {
        if (!ties.kinds().contains(link.kind())) {
            return false;
        }
        Link known = links.get(link.record());
        if (known == null || link.evidence().compareTo(known.evidence()) < 0) {
            links.put(link.record(), link);
        }
        return known == null;
    }
}
