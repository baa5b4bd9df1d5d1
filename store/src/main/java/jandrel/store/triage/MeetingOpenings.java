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
import jandrel.store.directory.Company;
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
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.function.Function;
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
    private final Company company;
    private final RecordRefs records;
    private final People people;
    private final RulesLock rules;

    MeetingOpenings(
            OpeningRows rows,
            Strangers strangers,
            Directory directory,
            Amending amending,
            Company company,
            RecordRefs records,
            People people,
            RulesLock rules) {
        this.rows = rows;
        this.strangers = strangers;
        this.directory = directory;
        this.amending = amending;
        this.company = company;
        this.records = records;
        this.people = people;
        this.rules = rules;
    }

    /**
     * What one batch made, and what it takes to undo it.
     *
     * @param contacts keys; {@code leads}, {@code accounts} and {@code opportunities} likewise
     * @param leadAddresses of whom leads were made
     * @param parts in opportunities, that contacts got
     * @param forAccounts ids or domains of the accounts that opportunities were opened for
     * @param says all of it as half a sentence
     */
    public record Made(
            List<String> contacts,
            List<String> leads,
            List<String> accounts,
            List<String> opportunities,
            List<String> leadAddresses,
            List<Part> parts,
            List<String> forAccounts,
            String says) {}

    public record Part(UUID opportunity, List<UUID> contacts) {}

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
        List<Looked> acting = new ArrayList<>();
        for (Looked looked : batch) {
            if (looked.result().did() == Did.NOTHING || looked.result().did() == Did.WAITS) {
                rows.note(looked, policy.id(), null, null);
            } else {
                acting.add(looked);
            }
        }
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
        private final Made made = new Made(
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                new ArrayList<>(),
                "");
        /** Keys of accounts that are made, by their domains; of contacts and leads, by their addresses; of opportunities, by accounts. */
        private final Map<String, String> accounts = new LinkedHashMap<>();

        private final Map<String, String> contacts = new HashMap<>();
        private final Map<String, String> opportunities = new HashMap<>();
        private final List<String> names = new ArrayList<>();
        private final Set<String> leads = new HashSet<>();
        private int joined;

        Batch(Policy policy, List<Looked> acting) {
            this.policy = policy;
            this.acting = acting;
        }

        void done(Function<Made, UUID> deed) throws ImportRejected {
            List<AccountRow> newAccounts = new ArrayList<>();
            List<ContactRow> newContacts = new ArrayList<>();
            List<LeadRow> newLeads = new ArrayList<>();
            List<OpportunityRow> newOpportunities = new ArrayList<>();
            Set<String> freeMail = Set.copyOf(company.freeMail());
            for (Looked looked : acting) {
                OpeningResult r = looked.result();
                if (r.did() == Did.LEADS) {
                    r.newContacts().stream()
                            .filter(g -> leads.add(g.address().toString()))
                            .forEach(g -> newLeads.add(lead(g, freeMail)));
                    continue;
                }
                String account = account(r, newAccounts);
                for (Guest g : r.newContacts()) {
                    if (!contacts.containsKey(g.address().toString())) {
                        ContactRow row = contact(g, account);
                        contacts.put(g.address().toString(), row.key());
                        newContacts.add(row);
                    }
                }
                if (r.did() == Did.OPENED) {
                    newOpportunities.add(opportunity(r, account));
                }
            }
            directory.accounts(newAccounts);
            directory.contacts(newContacts);
            directory.leads(newLeads);
            directory.opportunities(newOpportunities);
            String by = "the policy “" + policy.name() + "”";
            strangers.madeBy(made.contacts(), made.leads(), by);
            rows.madeBy(made.opportunities(), made.accounts(), by);
            made.leadAddresses().addAll(leads);
            note(deed);
        }

        private void note(Function<Made, UUID> kept) {
            Map<Looked, UUID> tied = new LinkedHashMap<>();
            for (Looked looked : acting) {
                OpeningResult r = looked.result();
                if (r.did() != Did.LEADS) {
                    UUID opportunity = r.opportunity() != null ? r.opportunity() : opened(r);
                    takePart(opportunity, r);
                    tied.put(looked, opportunity);
                }
                joined += r.did() == Did.JOINED ? 1 : 0;
            }
            UUID deed = kept.apply(new Made(
                    made.contacts(),
                    made.leads(),
                    made.accounts(),
                    made.opportunities(),
                    made.leadAddresses(),
                    made.parts(),
                    made.forAccounts(),
                    says()));
            acting.forEach(looked -> rows.note(looked, policy.id(), tied.get(looked), deed));
        }

        private UUID opened(OpeningResult r) {
            return records.byKey("opportunity", String.valueOf(opportunities.get(r.key())))
                    .orElseThrow()
                    .id();
        }

        private void takePart(UUID opportunity, OpeningResult r) {
            Set<UUID> taking = new HashSet<>(r.takingPart());
            for (Guest g : r.newContacts()) {
                records.byKey("contact", String.valueOf(contacts.get(g.address().toString())))
                        .map(RecordRef::id)
                        .ifPresent(taking::add);
            }
            List<UUID> given = amending.takePart(opportunity, taking);
            if (!given.isEmpty()) {
                made.parts().add(new Part(opportunity, given));
            }
        }

        /** The key of the account, which is made where none is on record. */
        private String account(OpeningResult r, List<AccountRow> rows) {
            if (!r.key().startsWith("@")) {
                return records.find(UUID.fromString(r.key())).orElseThrow().key();
            }
            String domain = r.key().substring(1);
            return accounts.computeIfAbsent(domain, d -> {
                String key = "made-" + UUID.randomUUID();
                made.accounts().add(key);
                rows.add(new AccountRow(0, key, Openings.titled(d), List.of(DomainName.of(d)), owner(r), ""));
                return key;
            });
        }

        private OpportunityRow opportunity(OpeningResult r, String account) {
            String key = "made-" + UUID.randomUUID();
            made.opportunities().add(key);
            made.forAccounts().add(r.key());
            opportunities.put(r.key(), key);
            names.add(r.name());
            Opening opening = policy.opening();
            return new OpportunityRow(
                    0,
                    key,
                    r.name(),
                    account,
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
            return r.owner() == null
                    ? ""
                    : people.one(r.owner()).map(People.Person::key).orElse("");
        }

        private String says() {
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
                        + Stranger.listed(leads.stream().sorted().toList()));
            }
            return String.join(", ", parts);
        }

        private ContactRow contact(Guest g, String account) {
            String key = "made-" + UUID.randomUUID();
            made.contacts().add(key);
            return new ContactRow(0, key, called(g), List.of(g.address()), List.of(), account, "", null, null);
        }

        private LeadRow lead(Guest g, Set<String> freeMail) {
            String key = "made-" + UUID.randomUUID();
            made.leads().add(key);
            String where = freeMail.contains("@" + g.domain()) ? "" : Openings.titled(g.domain());
            return new LeadRow(0, key, called(g), List.of(g.address()), where, "");
        }

        private static String called(Guest g) {
            return Stranger.called(g.name(), g.address().toString());
        }
    }
}
