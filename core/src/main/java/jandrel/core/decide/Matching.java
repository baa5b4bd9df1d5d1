package jandrel.core.decide;

import jandrel.core.address.EmailAddress;
import jandrel.core.decide.Link.Evidence;
import jandrel.core.directory.Account;
import jandrel.core.directory.Contact;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.Lead;
import jandrel.core.directory.Opportunity;
import jandrel.core.directory.RecordKind;
import jandrel.core.item.Item;
import jandrel.core.item.MeetingItem;
import jandrel.core.policy.Ties;
import java.time.LocalDate;
import java.time.ZoneOffset;
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
    private static final int DEEPEST = 10;
    private static final int MOST_CANDIDATES = 5;
    private static final Comparator<Contact> MOST_RECENT_FIRST = Comparator.comparing(
                    (Contact c) -> c.lastActive() == null ? LocalDate.MIN : c.lastActive())
            .reversed()
            .thenComparing(Contact::key);

    private static final Comparator<Contact> BY_KEY = Comparator.comparing(Contact::key);
    private static final Comparator<Contact> OLDEST_FIRST =
            Comparator.comparing(Contact::madeAt).thenComparing(Contact::key);

    private final DirectorySlice slice;
    private final Item item;
    private final UUID person;
    private final LocalDate day;
    private final Set<UUID> insiders;
    private final Ties ties;
    private final List<Reason> trail = new ArrayList<>(4);
    private final Map<UUID, Link> links = new LinkedHashMap<>(6);
    private final List<Account> accounts = new ArrayList<>(2);

    Matching(DirectorySlice slice, Item item, UUID person, Set<UUID> insiders, Ties ties) {
        this.person = person;
        this.ties = ties;
        this.slice = slice;
        this.item = item;
        this.day = item.at().atOffset(ZoneOffset.UTC).toLocalDate();
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
        Evidence exact = item instanceof MeetingItem ? Evidence.ATTENDANCE : Evidence.ADDRESS;
        if (matchKnown(address, exact)) {
            return;
        }
        Optional<EmailAddress> plain = address.withoutDetail().filter(this::isKnown);
        if (plain.isPresent()) {
            trail.add(Reason.of(
                    Rule.WITHOUT_DETAIL,
                    "address",
                    address.toString(),
                    "plain",
                    plain.get().toString()));
            matchKnown(plain.get(), Evidence.OTHER_ADDRESS);
            return;
        }
        Optional<EmailAddress> form = slice.otherForm(address).filter(this::isKnown);
        if (form.isPresent()) {
            trail.add(Reason.of(
                    Rule.WITHOUT_DOTS,
                    "address",
                    address.toString(),
                    "plain",
                    form.get().toString(),
                    "domain",
                    address.domain()));
            matchKnown(form.get(), Evidence.OTHER_ADDRESS);
            return;
        }
        matchDomain(address);
    }

    private boolean isKnown(EmailAddress address) {
        return !slice.contacts(address).isEmpty() || !slice.leads(address).isEmpty();
    }

    /** By a contact's address, else by a lead's. */
    private boolean matchKnown(EmailAddress address, Evidence evidence) {
        List<Contact> sharing = slice.contacts(address);
        if (!sharing.isEmpty()) {
            matchContact(address, sharing, evidence);
            return true;
        }
        List<Lead> leads = slice.leads(address);
        leads.stream().min(Comparator.comparing(Lead::key)).ifPresent(lead -> {
            trail.add(Reason.of(Rule.LEAD_ADDRESS, "address", address.toString(), "lead", lead.name()));
            link(new Link(RecordKind.LEAD, lead.id(), evidence));
        });
        return !leads.isEmpty();
    }

    private void matchDomain(EmailAddress address) {
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

    private void matchContact(EmailAddress address, List<Contact> sharing, Evidence evidence) {
        if (sharing.size() == 1) {
            tie(single(address, sharing.get(0)), evidence);
        } else if (ties.tieBreak() == Ties.TieBreak.ALL) {
            trail.add(Reason.of(
                    Rule.SHARED_ADDRESS_ALL, "address", address.toString(), "count", String.valueOf(sharing.size())));
            sharing.stream().sorted(BY_KEY).forEach(contact -> tie(contact, evidence));
        } else {
            tie(choose(address, sharing), evidence);
        }
    }

    private void tie(Contact contact, Evidence evidence) {
        link(new Link(RecordKind.CONTACT, contact.id(), evidence));
        Optional<Contact.Stay> stay = contact.stayOn(day);
        Account account = stay.map(Contact.Stay::account).orElse(contact.account());
        if (account == null) {
            return;
        }
        trail.add(
                stay.isPresent()
                        ? Reason.of(
                                Rule.EARLIER_ACCOUNT,
                                "contact",
                                contact.name(),
                                "account",
                                account.name(),
                                "until",
                                stay.get().until().toString())
                        : Reason.of(Rule.ACCOUNT_OF_CONTACT, "contact", contact.name(), "account", account.name()));
        linkAccount(account, Evidence.CONTACT);
    }

    private Contact single(EmailAddress address, Contact contact) {
        trail.add(Reason.of(Rule.CONTACT_ADDRESS, "address", address.toString(), "contact", contact.name()));
        return contact;
    }

    /** Several contacts have this address: the one that the policy's tie-break prefers. */
    private Contact choose(EmailAddress address, List<Contact> sharing) {
        Comparator<Contact> order = switch (ties.tieBreak()) {
            case FIRST -> BY_KEY;
            case OLDEST -> OLDEST_FIRST;
            default -> MOST_RECENT_FIRST;
        };
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
        if (ties.tieBreak() == Ties.TieBreak.OLDEST) {
            return ranked.get(0).madeAt().equals(ranked.get(1).madeAt())
                    ? Rule.SHARED_ADDRESS_FIRST
                    : Rule.SHARED_ADDRESS_OLDEST;
        }
        LocalDate first = ranked.get(0).lastActive();
        return first != null && !first.equals(ranked.get(1).lastActive())
                ? Rule.SHARED_ADDRESS_RECENT
                : Rule.SHARED_ADDRESS_FIRST;
    }

    private void linkAccount(Account account, Evidence evidence) {
        if (link(new Link(RecordKind.ACCOUNT, account.id(), evidence))) {
            accounts.add(account);
        }
        Account below = account;
        Account above = account.above();
        for (int depth = 0; above != null && depth < DEEPEST; depth++) {
            if (link(new Link(RecordKind.ACCOUNT, above.id(), Evidence.PART))) {
                trail.add(Reason.of(Rule.ACCOUNT_ABOVE, "account", below.name(), "above", above.name()));
            }
            below = above;
            above = above.above();
        }
    }

    /** Once all addresses are matched: what people tied it to, and the opportunities of the accounts that it met. */
    void pinsAndOpportunities() {
        for (DirectorySlice.Pin pin : slice.pins(item.identity(), person)) {
            trail.add(Reason.of(Rule.PINNED, "by", pin.by(), "record", pin.name()));
            // somebody's own choice goes beyond the kinds that the policy links by itself
            links.put(pin.record(), new Link(pin.kind(), pin.record(), Evidence.RULING));
        }
        if (ties.kinds().contains(RecordKind.OPPORTUNITY)) {
            accounts.forEach(this::linkOpportunity);
        }
    }

    /** The open one with somebody of theirs on the item, else with its owner on it, else the only one. */
    private void linkOpportunity(Account account) {
        List<Opportunity> open = slice.openOpportunities(account.id());
        if (open.isEmpty()) {
            trail.add(Reason.of(Rule.NO_OPPORTUNITY, "account", account.name()));
            return;
        }
        if (open.stream().anyMatch(o -> links.containsKey(o.id()) && isPinned(o.id()))) {
            return;
        }
        List<Opportunity> taking = open.stream()
                .filter(o -> o.contacts().stream().anyMatch(links::containsKey))
                .toList();
        List<Opportunity> owned = (taking.isEmpty() ? open : taking)
                .stream()
                        .filter(o -> o.owner() != null && insiders.contains(o.owner()))
                        .toList();
        if (taking.size() == 1) {
            pick(account, taking.get(0), Rule.OPPORTUNITY_OF_CONTACTS, Evidence.TAKES_PART);
        } else if (open.size() == 1) {
            pick(account, open.get(0), Rule.ONLY_OPPORTUNITY, Evidence.ONLY_OPEN);
        } else if (owned.size() == 1) {
            pick(account, owned.get(0), Rule.OPPORTUNITY_OF_OWNER, Evidence.ONLY_OPEN);
        } else {
            trail.add(Reason.of(
                    Rule.SEVERAL_OPPORTUNITIES,
                    "account",
                    account.name(),
                    "count",
                    String.valueOf(open.size()),
                    "candidates",
                    candidates(open)));
        }
    }

    private boolean isPinned(UUID record) {
        Link link = links.get(record);
        return link != null && link.evidence() == Evidence.RULING;
    }

    private void pick(Account account, Opportunity opportunity, Rule rule, Evidence evidence) {
        trail.add(Reason.of(rule, "account", account.name(), "opportunity", opportunity.name()));
        link(new Link(RecordKind.OPPORTUNITY, opportunity.id(), evidence));
    }

    private static String candidates(List<Opportunity> open) {
        String some = open.stream()
                .map(o -> "“" + o.name() + "”")
                .sorted()
                .limit(MOST_CANDIDATES)
                .collect(java.util.stream.Collectors.joining(", "));
        return open.size() > MOST_CANDIDATES ? some + " and others" : some;
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
