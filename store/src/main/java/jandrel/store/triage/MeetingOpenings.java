package jandrel.store.triage;

import jandrel.core.address.DomainName;
import jandrel.core.directory.DirectoryRows;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.ImportRejected;
import jandrel.core.opening.OpeningMeeting.Guest;
import jandrel.core.opening.OpeningResult;
import jandrel.core.opening.OpeningResult.Did;
import jandrel.core.opening.Openings;
import jandrel.core.policy.Opening;
import jandrel.core.policy.Policy;
import jandrel.core.triage.Stranger;
import jandrel.store.directory.Amending;
import jandrel.store.directory.Directory;
import jandrel.store.directory.RecordRef;
import jandrel.store.directory.RecordRefs;
import jandrel.store.kernel.RulesLock;
import jandrel.store.people.People;
import jandrel.store.triage.OpeningRows.Looked;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Opens opportunities by meeting where a policy says so, in batches that can be taken back. What is there is read again while the rules
 * are this transaction's alone, so that two nodes never open two for one account.
 */
@Component
public class MeetingOpenings {
    private static final String FIRST_STAGE = "new";
    /** Meetings are planned for years; what is further off is looked at when it is nearer. */
    private static final Duration AHEAD = Duration.ofDays(366);

    private final OpeningRows rows;
    private final Strangers strangers;
    private final Directory directory;
    private final Amending amending;
    private final RecordRefs records;
    private final People people;
    private final RulesLock rules;

    MeetingOpenings(
            OpeningRows rows,
            Strangers strangers,
            Directory directory,
            Amending amending,
            RecordRefs records,
            People people,
            RulesLock rules) {
        this.rows = rows;
        this.strangers = strangers;
        this.directory = directory;
        this.amending = amending;
        this.records = records;
        this.people = people;
        this.rules = rules;
    }

    /**
     * What one batch made, and what it takes to undo it.
     *
     * @param contacts keys; {@code leads}, {@code accounts} and {@code opportunities} likewise
     * @param leadAddresses of whom leads were made
     * @param parts contacts who got one, by opportunity
     * @param forAccounts ids or domains of the accounts that opportunities were opened for
     * @param says all of it as half a sentence
     */
    public record Made(
            List<String> contacts,
            List<String> leads,
            List<String> accounts,
            List<String> opportunities,
            List<String> leadAddresses,
            Map<UUID, List<UUID>> parts,
            List<String> forAccounts,
            String says) {}

    /**
     * Looks at the next batch.
     *
     * @param deed keeps what was made, to be undone, and gives that an id
     * @return whether something came of it, so that items are decided again
     */
    @Transactional(rollbackFor = ImportRejected.class)
    public boolean next(Policy policy, Instant now, Function<Made, UUID> deed) throws ImportRejected {
        if (pending(policy, now).isEmpty()) {
            return false;
        }
        rules.alone();
        List<Looked> batch = pending(policy, now);
        Map<Boolean, List<Looked>> does = batch.stream()
                .collect(Collectors.partitioningBy(
                        l -> l.result().did() != Did.NOTHING && l.result().did() != Did.WAITS));
        rows.note(does.getOrDefault(false, List.of()), policy.id(), Map.of(), null);
        List<Looked> acting = does.getOrDefault(true, List.of());
        if (acting.isEmpty()) {
            return false;
        }
        rules.change();
        new Batch(policy, acting).done(deed);
        return true;
    }

    private List<Looked> pending(Policy policy, Instant now) {
        Opening opening = policy.opening();
        Instant today = now.truncatedTo(ChronoUnit.DAYS);
        return rows.pending(
                policy.id(),
                policy.version(),
                opening,
                strangers.coveredBy(policy.id()),
                today.minus(Duration.ofDays(opening.backDays())),
                now.plus(AHEAD),
                today);
    }

    /** What one batch makes, step by step: accounts, those who belong to them, opportunities, and who takes part. */
    private final class Batch {
        private final Policy policy;
        private final List<Looked> acting;
        /** Keys of all that is made: of accounts by their domains, of contacts and leads by addresses, of opportunities by accounts. */
        private final Map<String, String> accounts = new LinkedHashMap<>();

        private final Map<String, String> contacts = new LinkedHashMap<>();
        private final Map<String, String> leads = new LinkedHashMap<>();
        private final Map<String, String> opportunities = new LinkedHashMap<>();
        /** Keys of those that are on record. */
        private final Map<UUID, String> known;

        private final Map<UUID, String> owners;
        private final List<String> names = new ArrayList<>();

        Batch(Policy policy, List<Looked> acting) {
            this.policy = policy;
            this.acting = acting;
            known = records
                    .all(acting.stream()
                            .map(l -> l.result().key())
                            .filter(k -> !k.isEmpty() && !k.startsWith("@"))
                            .distinct()
                            .map(UUID::fromString)
                            .toArray(UUID[]::new))
                    .stream()
                    .collect(Collectors.toMap(RecordRef::id, RecordRef::key));
            owners = people.all().stream().collect(Collectors.toMap(People.Person::id, People.Person::key));
        }

        void done(Function<Made, UUID> deed) throws ImportRejected {
            List<AccountRow> newAccounts = new ArrayList<>();
            List<ContactRow> newContacts = new ArrayList<>();
            List<LeadRow> newLeads = new ArrayList<>();
            List<OpportunityRow> newOpportunities = new ArrayList<>();
            for (Looked looked : acting) {
                OpeningResult r = looked.result();
                if (r.did() == Did.LEADS) {
                    r.newContacts()
                            .forEach(g ->
                                    once(leads, g.address().toString()).ifPresent(key -> newLeads.add(lead(g, key))));
                    continue;
                }
                if (r.key().startsWith("@")) {
                    String domain = r.key().substring(1);
                    once(accounts, domain).ifPresent(key -> newAccounts.add(account(r, domain, key)));
                }
                r.newContacts()
                        .forEach(g -> once(contacts, g.address().toString())
                                .ifPresent(key -> newContacts.add(contact(g, accountOf(r), key))));
                if (r.did() == Did.OPENED) {
                    once(opportunities, r.key()).ifPresent(key -> newOpportunities.add(opportunity(r, key)));
                }
            }
            directory.accounts(newAccounts);
            directory.contacts(newContacts);
            directory.leads(newLeads);
            directory.opportunities(newOpportunities);
            String by = "the policy “" + policy.name() + "”";
            strangers.madeBy(List.copyOf(contacts.values()), List.copyOf(leads.values()), by);
            rows.madeBy(List.copyOf(opportunities.values()), List.copyOf(accounts.values()), by);
            note(deed);
        }

        private void note(Function<Made, UUID> kept) {
            Map<String, UUID> opened = ids("opportunity", opportunities);
            Map<String, UUID> made = ids("contact", contacts);
            Map<UUID, UUID> tied = new HashMap<>();
            Map<UUID, Set<UUID>> taking = new HashMap<>();
            for (Looked looked : acting) {
                OpeningResult r = looked.result();
                UUID opportunity = r.opportunity() == null ? opened.get(r.key()) : r.opportunity();
                if (opportunity != null) {
                    tied.put(r.item(), opportunity);
                    Set<UUID> theirs = taking.computeIfAbsent(opportunity, o -> new LinkedHashSet<>(r.takingPart()));
                    theirs.addAll(r.takingPart());
                    r.newContacts().stream()
                            .map(g -> made.get(g.address().toString()))
                            .filter(Objects::nonNull)
                            .forEach(theirs::add);
                }
            }
            UUID deed = kept.apply(new Made(
                    List.copyOf(contacts.values()),
                    List.copyOf(leads.values()),
                    List.copyOf(accounts.values()),
                    List.copyOf(opportunities.values()),
                    List.copyOf(leads.keySet()),
                    amending.takePart(taking),
                    List.copyOf(opportunities.keySet()),
                    says()));
            rows.note(acting, policy.id(), tied, deed);
        }

        /** The ids of what was made, as the keys are held. */
        private Map<String, UUID> ids(String kind, Map<String, String> keys) {
            Map<String, UUID> byKey = records.byKeys(kind, keys.values().toArray(String[]::new)).stream()
                    .collect(Collectors.toMap(RecordRef::key, RecordRef::id));
            Map<String, UUID> ids = new HashMap<>();
            keys.forEach((of, key) -> ids.put(of, Objects.requireNonNull(byKey.get(key))));
            return ids;
        }

        /** A key for something new; nothing where it has one by now. */
        private static Optional<String> once(Map<String, String> keys, String of) {
            String key = "made-" + UUID.randomUUID();
            return keys.putIfAbsent(of, key) == null ? Optional.of(key) : Optional.empty();
        }

        private String accountOf(OpeningResult r) {
            return Objects.requireNonNull(
                    r.key().startsWith("@") ? accounts.get(r.key().substring(1)) : known.get(UUID.fromString(r.key())));
        }

        private AccountRow account(OpeningResult r, String domain, String key) {
            return new AccountRow(0, key, Openings.titled(domain), List.of(DomainName.of(domain)), owner(r), "");
        }

        private OpportunityRow opportunity(OpeningResult r, String key) {
            names.add(r.name());
            Opening opening = policy.opening();
            return new OpportunityRow(
                    0,
                    key,
                    r.name(),
                    accountOf(r),
                    opening.stage().isEmpty() ? FIRST_STAGE : opening.stage(),
                    DirectoryRows.OpportunityState.OPEN,
                    null,
                    "",
                    DirectoryRows.Period.ONCE,
                    opening.channel(),
                    owner(r),
                    List.of());
        }

        private String owner(OpeningResult r) {
            return r.owner() == null ? "" : owners.getOrDefault(r.owner(), "");
        }

        private String says() {
            long joined =
                    acting.stream().filter(l -> l.result().did() == Did.JOINED).count();
            List<String> parts = new ArrayList<>();
            if (!names.isEmpty()) {
                parts.add("opened "
                        + (names.size() == 1 ? "the opportunity " : names.size() + " opportunities by meeting: ")
                        + Stranger.listed(names));
            }
            if (joined > 0) {
                parts.add("tied " + (joined == 1 ? "a meeting" : joined + " meetings") + " to open opportunities");
            }
            if (!leads.isEmpty()) {
                parts.add("made " + (leads.size() == 1 ? "a lead" : leads.size() + " leads") + " of "
                        + Stranger.listed(leads.keySet().stream().sorted().toList()));
            }
            return String.join(", ", parts);
        }

        private static ContactRow contact(Guest g, String account, String key) {
            return new ContactRow(0, key, called(g), List.of(g.address()), List.of(), account, "", null, null);
        }

        /** Their address is at a public mail provider, and says nothing of a company. */
        private static LeadRow lead(Guest g, String key) {
            return new LeadRow(0, key, called(g), List.of(g.address()), "", "");
        }

        private static String called(Guest g) {
            return Stranger.called(g.name(), g.address().toString());
        }
    }
}
