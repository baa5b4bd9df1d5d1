package jandrel.store.contacts;

import jandrel.core.address.EmailAddress;
import jandrel.core.contacts.CardIndex;
import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.NameKey;
import jandrel.core.directory.Account;
import jandrel.core.directory.DirectorySlice;
import jandrel.core.directory.DirectorySlice.DomainHit;
import jandrel.core.rehearse.Draft;
import jandrel.store.contacts.CardMapper.Candidate;
import jandrel.store.directory.Slices;
import java.time.LocalDate;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;

/** The part of the directory that a batch of cards may be about, read at once. */
final class CardLookup implements CardIndex {
    private final DirectorySlice slice;
    private final Map<String, List<Known>> byPhone = new HashMap<>();
    private final Map<NameKey, List<Known>> byName = new HashMap<>();
    private final Map<String, List<UUID>> called = new HashMap<>();
    private final Set<UUID> there;
    private final Set<UUID> archived;
    private final UUID policy;
    private final UUID person;
    private final LocalDate today;

    /**
     * @param agreed whose cards they were last
     * @param person whose book it is
     */
    CardLookup(
            CardMapper mapper,
            Slices slices,
            Collection<ContactDetails> cards,
            Collection<UUID> agreed,
            UUID policy,
            UUID person,
            LocalDate today) {
        this.policy = policy;
        this.person = person;
        this.today = today;
        Set<String> keys = new TreeSet<>();
        cards.forEach(c ->
                c.mails().keySet().forEach(m -> EmailAddress.parse(m).ifPresent(a -> keys.addAll(a.keys()))));
        slice = slices.ofKeys(keys, Draft.NONE, Set.of(), id -> "");
        UUID[] found = cards.stream()
                .flatMap(c -> c.mails().keySet().stream())
                .flatMap(m -> EmailAddress.parse(m).stream())
                .flatMap(a -> slice.contacts(a).stream())
                .map(c -> c.id())
                .distinct()
                .toArray(UUID[]::new);
        archived = found.length == 0 ? Set.of() : new HashSet<>(mapper.archived(found));
        there = agreed.isEmpty() ? Set.of() : new HashSet<>(mapper.there(agreed.toArray(UUID[]::new)));
        String[] phones = all(cards, c -> c.phones().keySet());
        mapper.byPhone(phones)
                .forEach(c -> byPhone.computeIfAbsent(c.key(), k -> new java.util.ArrayList<>())
                        .add(known(c)));
        String[] names = all(cards, c -> Set.of(lower(c.organisation())));
        mapper.accountsCalled(names)
                .forEach(a -> called.computeIfAbsent(a.key(), k -> new java.util.ArrayList<>())
                        .add(a.id()));
        Set<UUID> accounts =
                cards.stream().flatMap(c -> accounts(c).stream()).collect(Collectors.toCollection(TreeSet::new));
        if (!accounts.isEmpty()) {
            mapper.atAccounts(accounts.toArray(UUID[]::new)).forEach(c -> {
                Known known = known(c);
                byName.computeIfAbsent(known.name(), k -> new java.util.ArrayList<>())
                        .add(known);
            });
        }
    }

    private static String[] all(Collection<ContactDetails> cards, Function<ContactDetails, Collection<String>> of) {
        return cards.stream()
                .flatMap(c -> of.apply(c).stream())
                .filter(t -> !t.isBlank())
                .distinct()
                .toArray(String[]::new);
    }

    private static Known known(Candidate c) {
        return new Known(c.id(), NameKey.of(c.name()), Optional.ofNullable(c.account()), c.archived());
    }

    private static String lower(String text) {
        return text.strip().toLowerCase(Locale.ROOT);
    }

    @Override
    public Optional<UUID> now(UUID contact) {
        return Optional.of(contact).filter(there::contains);
    }

    @Override
    public List<Known> byMail(String mail) {
        return EmailAddress.parse(mail)
                .map(a -> slice.contacts(a).stream()
                        .map(c -> new Known(
                                c.id(),
                                NameKey.of(c.name()),
                                Optional.ofNullable(c.account()).map(Account::id),
                                archived.contains(c.id())))
                        .toList())
                .orElse(List.of());
    }

    @Override
    public List<Known> byPhone(String phone) {
        return byPhone.getOrDefault(phone, List.of());
    }

    @Override
    public List<Known> byName(NameKey name) {
        return byName.getOrDefault(name, List.of());
    }

    @Override
    public List<UUID> accounts(ContactDetails card) {
        Set<UUID> accounts = new LinkedHashSet<>(called.getOrDefault(lower(card.organisation()), List.of()));
        card.mails().keySet().forEach(mail -> domain(mail).ifPresent(accounts::add));
        return List.copyOf(accounts);
    }

    private Optional<UUID> domain(String mail) {
        return EmailAddress.parse(mail)
                .filter(a -> !slice.isFreeMail(a))
                .flatMap(slice::accountByDomain)
                .map(DomainHit::account)
                .map(Account::id);
    }

    @Override
    public boolean isInside(String mail) {
        return EmailAddress.parse(mail).filter(slice::isInside).isPresent();
    }

    @Override
    public boolean isExcluded(String mail) {
        return EmailAddress.parse(mail)
                .flatMap(a -> slice.exclusions().covering(a, today, policy, person))
                .isPresent();
    }
}
