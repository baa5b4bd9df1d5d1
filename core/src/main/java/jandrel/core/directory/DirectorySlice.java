package jandrel.core.directory;

import jandrel.core.address.EmailAddress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;

/**
 * All that the directory, the exclusions and the lists of domains say about the addresses of one batch. Immutable once built;
 * safe to share between threads.
 */
public final class DirectorySlice {
    private final Map<String, Insider> people;
    private final Set<String> ownDomains;
    private final Set<String> freeMail;
    private final Map<String, List<Contact>> contacts;
    private final Map<String, List<Lead>> leads;
    private final Map<String, List<Pin>> pins;
    private final Map<String, Account> accountsByDomain;
    private final Map<UUID, List<Opportunity>> open;
    private final ExclusionIndex exclusions;
    private final Set<String> dotless;
    private final Map<String, EmailAddress> forms = new HashMap<>(0);

    private DirectorySlice(Builder from) {
        people = from.people;
        ownDomains = from.ownDomains;
        freeMail = from.freeMail;
        contacts = from.contacts;
        leads = from.leads;
        pins = from.pins;
        accountsByDomain = from.accountsByDomain;
        open = from.open;
        exclusions =
                from.exclusions.isEmpty() ? ExclusionIndex.NONE : new ExclusionIndex(from.exclusions, from.dotless);
        dotless = from.dotless;
        if (!dotless.isEmpty()) {
            for (Map<String, ?> known : List.of(contacts, leads, people)) {
                known.keySet()
                        .forEach(address -> EmailAddress.parse(address)
                                .filter(a -> dotless.contains("@" + a.domain()))
                                .ifPresent(
                                        a -> forms.putIfAbsent(a.withoutDots().toString(), a)));
            }
        }
    }

    /** How the directory writes this address, where its provider ignores dots and that differs by dots (and a detail) alone. */
    public Optional<EmailAddress> otherForm(EmailAddress address) {
        return forms.isEmpty() || !dotless.contains("@" + address.domain())
                ? Optional.empty()
                : Optional.ofNullable(forms.get(address.withoutDots().toString()))
                        .filter(form -> !form.equals(address));
    }

    public static Builder builder() {
        return new Builder();
    }

    /** The person of ours who has this address. */
    public Optional<Insider> insider(EmailAddress address) {
        Insider person = people.get(address.toString());
        if (person != null) {
            return Optional.of(person);
        }
        return address.withoutDetail()
                .map(plain -> people.get(plain.toString()))
                .or(() -> otherForm(address).map(form -> people.get(form.toString())));
    }

    /** Whether the address is ours: a person's own, or under one of the company's domains. */
    public boolean isInside(EmailAddress address) {
        return insider(address).isPresent() || covers(ownDomains, address);
    }

    /** Whether the address is at a provider where anybody can have one, so that its domain says nothing. */
    public boolean isFreeMail(EmailAddress address) {
        return covers(freeMail, address);
    }

    /** The contacts with this address; several when they share it. */
    public List<Contact> contacts(EmailAddress address) {
        return contacts.getOrDefault(address.toString(), List.of());
    }

    /** The leads with this address. */
    public List<Lead> leads(EmailAddress address) {
        return leads.getOrDefault(address.toString(), List.of());
    }

    /** The address by which a contact or a lead is known: itself, without its detail, or as its provider reads it. */
    public Optional<EmailAddress> recorded(EmailAddress address) {
        return isRecorded(address)
                ? Optional.of(address)
                : address.withoutDetail()
                        .filter(this::isRecorded)
                        .or(() -> otherForm(address).filter(this::isRecorded));
    }

    private boolean isRecorded(EmailAddress address) {
        return !contacts(address).isEmpty() || !leads(address).isEmpty();
    }

    /** The records that somebody tied the item to, for copies that this person brings. */
    public List<Pin> pins(String identity, UUID person) {
        List<Pin> all = pins.getOrDefault(identity, List.of());
        return all.isEmpty()
                ? all
                : all.stream()
                        .filter(p -> p.owners().isEmpty() || p.owners().contains(person))
                        .toList();
    }

    /** The account whose domain is nearest above this address. */
    public Optional<DomainHit> accountByDomain(EmailAddress address) {
        for (String key : address.domainKeys()) {
            Account hit = accountsByDomain.get(key);
            if (hit != null) {
                return Optional.of(new DomainHit(hit, key.substring(1)));
            }
        }
        return Optional.empty();
    }

    /** The account's open opportunities. */
    public List<Opportunity> openOpportunities(UUID account) {
        return open.getOrDefault(account, List.of());
    }

    public ExclusionIndex exclusions() {
        return exclusions;
    }

    private static boolean covers(Set<String> domains, EmailAddress address) {
        if (domains.isEmpty()) {
            return false;
        }
        for (String key : address.domainKeys()) {
            if (domains.contains(key)) {
                return true;
            }
        }
        return false;
    }

    /**
     * A person's own choice of a record for an item.
     *
     * @param owners whose copies of the item it was chosen for; empty for everybody's
     */
    public record Pin(RecordKind kind, UUID record, String name, String by, Set<UUID> owners) {
        public Pin {
            owners = Set.copyOf(owners);
        }

        public Pin(RecordKind kind, UUID record, String name, String by) {
            this(kind, record, name, by, Set.of());
        }
    }

    /** An account, and the domain it was found by. */
    public record DomainHit(Account account, String domain) {}

    /** Gathers a slice; not for use by several threads. */
    public static final class Builder {
        private final Map<String, Insider> people = new HashMap<>();
        private final Set<String> ownDomains = new HashSet<>();
        private final Set<String> freeMail = new HashSet<>();
        private final Map<String, List<Contact>> contacts = new HashMap<>();
        private final Map<String, List<Lead>> leads = new HashMap<>();
        private final Map<String, List<Pin>> pins = new HashMap<>();
        private final Map<String, Account> accountsByDomain = new HashMap<>();
        private final Map<UUID, List<Opportunity>> open = new HashMap<>();
        private final List<Exclusion> exclusions = new ArrayList<>();
        private final Set<String> dotless = new HashSet<>();

        private Builder() {}

        public Builder person(String address, Insider person) {
            people.put(address, person);
            return this;
        }

        /** @param key with its leading {@code @} */
        public Builder ownDomain(String key) {
            ownDomains.add(key);
            return this;
        }

        /** @param key with its leading {@code @} */
        public Builder freeMail(String key) {
            freeMail.add(key);
            return this;
        }

        /**
         * A domain whose provider ignores dots.
         *
         * @param key with its leading {@code @}
         */
        public Builder dotless(String key) {
            dotless.add(key);
            return this;
        }

        public Builder contact(String address, Contact contact) {
            contacts.computeIfAbsent(address, a -> new ArrayList<>(1)).add(contact);
            return this;
        }

        public Builder lead(String address, Lead lead) {
            leads.computeIfAbsent(address, a -> new ArrayList<>(1)).add(lead);
            return this;
        }

        /** @param identity of the item */
        public Builder pin(String identity, Pin pin) {
            pins.computeIfAbsent(identity, i -> new ArrayList<>(1)).add(pin);
            return this;
        }

        /** @param key with its leading {@code @} */
        public Builder accountDomain(String key, Account account) {
            accountsByDomain.put(key, account);
            return this;
        }

        public Builder open(UUID account, Opportunity opportunity) {
            open.computeIfAbsent(account, a -> new ArrayList<>(1)).add(opportunity);
            return this;
        }

        public Builder exclusion(Exclusion exclusion) {
            exclusions.add(exclusion);
            return this;
        }

        public DirectorySlice build() {
            return new DirectorySlice(this);
        }
    }
}
