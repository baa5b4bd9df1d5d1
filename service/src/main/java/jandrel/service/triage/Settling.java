package jandrel.service.triage;

import jandrel.api.TriageApi.Choice;
import jandrel.api.TriageApi.MadeRecord;
import jandrel.api.TriageApi.NewRecord;
import jandrel.api.TriageApi.Settled;
import jandrel.core.address.DomainName;
import jandrel.core.address.EmailAddress;
import jandrel.core.address.PhoneNumber;
import jandrel.core.directory.DirectoryRows;
import jandrel.core.directory.DirectoryRows.AccountRow;
import jandrel.core.directory.DirectoryRows.ContactRow;
import jandrel.core.directory.DirectoryRows.LeadRow;
import jandrel.core.directory.DirectoryRows.OpportunityRow;
import jandrel.core.directory.Exclusion;
import jandrel.core.directory.ImportRejected;
import jandrel.core.journal.Entry.Thing;
import jandrel.core.opening.Openings;
import jandrel.core.policy.Creation;
import jandrel.core.policy.Policy;
import jandrel.core.triage.Stranger;
import jandrel.formats.mail.Phones;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.Amending;
import jandrel.store.directory.Company;
import jandrel.store.directory.Directory;
import jandrel.store.directory.RecordRef;
import jandrel.store.journal.Journal;
import jandrel.store.kernel.Reopener;
import jandrel.store.policy.Exclusions;
import jandrel.store.triage.MeetingOpenings;
import jandrel.store.triage.OpeningRows;
import jandrel.store.triage.Pins;
import jandrel.store.triage.Strangers;
import jandrel.store.triage.Strangers.Meant;
import jandrel.store.triage.Strangers.TriageAction;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Does what somebody chose about strangers, and takes it back. What follows for items is decided again in the background. */
@Component
class Settling {
    private static final int LONGEST_NAME = 200;
    private static final int MOST_AT_ONCE = 500;
    private static final String SERVICE = "service";
    private final Strangers strangers;
    private final SettlingTwins twins;
    private final Directory directory;
    private final Amending amending;
    private final Exclusions exclusions;
    private final Company company;
    private final Pins pins;
    private final Targets targets;
    private final Journal journal;
    private final Phones phones;
    private final Reopener reopener;
    private final OpeningRows openings;

    Settling(
            Strangers strangers,
            SettlingTwins twins,
            Directory directory,
            Amending amending,
            Exclusions exclusions,
            Company company,
            Pins pins,
            Targets targets,
            Journal journal,
            Phones phones,
            Reopener reopener,
            OpeningRows openings) {
        this.openings = openings;
        this.reopener = reopener;
        this.strangers = strangers;
        this.twins = twins;
        this.directory = directory;
        this.amending = amending;
        this.exclusions = exclusions;
        this.company = company;
        this.pins = pins;
        this.targets = targets;
        this.journal = journal;
        this.phones = phones;
    }

    @Transactional(rollbackFor = ImportRejected.class)
    Settled settle(Choice choice, SignedIn me) throws ImportRejected {
        Set<String> anybodys = Set.copyOf(company.freeMail());
        for (String domain : choice.domains()) {
            if (anybodys.contains("@" + domain)) {
                throw Refusal.bad(
                        "Anybody can have an address at " + domain,
                        "Choose for its addresses one by one, not for the domain.");
            }
        }
        List<Meant> meant = strangers.meant(me.viewer(), choice.addresses(), choice.domains());
        if (meant.isEmpty()) {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    "None of these is a stranger any more",
                    "Somebody may have settled them in the meantime; look again.");
        }
        List<String> addresses = meant.stream().map(Meant::address).toList();
        long items = strangers.items(me.viewer(), addresses);
        Undo undo = Undo.nothing();
        String says = switch (choice.choice()) {
            case "contact" -> {
                RecordRef contact = targets.of(choice.record(), "contact");
                undo = undo.given(contact.id(), amending.give(contact.id(), addresses));
                yield Stranger.listed(addresses) + " became another address of " + contact.name();
            }
            case "new-contact" -> newContacts(choice, meant, undo);
            case "new-lead" -> newLeads(choice, meant, undo);
            case "new-account" -> newAccounts(choice, meant, undo);
            case "new-opportunity" -> newOpportunity(choice, meant, undo);
            case "exclude" -> exclude(choice, meant, undo, me);
            case "not-interesting" -> {
                strangers.hide(addresses, me.login());
                undo.hidden().addAll(addresses);
                yield "hid " + Stranger.listed(addresses) + " until something new comes";
            }
            default ->
                throw Refusal.bad(
                        "There is no choice “" + choice.choice() + "”",
                        "Choices are contact, new-contact, new-lead, new-account, new-opportunity, exclude and not-interesting.");
        };
        UUID deed = strangers.done(me.login(), says, undo.text());
        journal.add(me.login(), "settled", new Thing("triage", deed.toString(), choice.choice()), null, says);
        return new Settled(deed, says, meant.size(), items);
    }

    /** What a policy makes of strangers without a person's choice: a batch, taken back like any other. */
    @Transactional(rollbackFor = ImportRejected.class)
    void byItself(String policy, Creation.Makes makes, List<Stranger> strangers) throws ImportRejected {
        List<Meant> meant = strangers.stream()
                .limit(MOST_AT_ONCE)
                .map(s -> new Meant(s.address(), s.domain(), s.name()))
                .toList();
        boolean contacts = makes == Creation.Makes.CONTACTS;
        Choice choice = new Choice(contacts ? "new-contact" : "new-lead", List.of(), List.of(), null, null);
        Undo undo = Undo.nothing();
        undo.notAgain().addAll(meant.stream().map(Meant::address).toList());
        String made = contacts ? newContacts(choice, meant, undo) : newLeads(choice, meant, undo);
        String says = made + ", as the policy “" + policy + "” says";
        this.strangers.madeBy(undo.contacts(), undo.leads(), "the policy “" + policy + "”");
        UUID deed = this.strangers.done(SERVICE, says, undo.text());
        journal.add(SERVICE, "settled", new Thing("triage", deed.toString(), choice.choice()), null, says);
    }

    /** What meetings opened where a policy says so. */
    UUID opened(Policy policy, MeetingOpenings.Made made) {
        Undo undo = Undo.nothing();
        undo.contacts().addAll(made.contacts());
        undo.leads().addAll(made.leads());
        undo.accounts().addAll(made.accounts());
        undo.opportunities().addAll(made.opportunities());
        undo.notAgain().addAll(made.leadAddresses());
        undo.parts().putAll(made.parts());
        undo.openNothing().addAll(made.forAccounts());
        String says = made.says() + ", as the policy “" + policy.name() + "” says";
        UUID deed = strangers.done(SERVICE, says, undo.text());
        journal.add(SERVICE, "settled", new Thing("triage", deed.toString(), "by meeting"), null, says);
        return deed;
    }

    private String newContacts(Choice choice, List<Meant> meant, Undo undo) throws ImportRejected {
        RecordRef account = choice.record() == null ? null : targets.of(choice.record(), "account");
        Map<String, String> likely = account == null ? likelyAccounts(meant) : Map.of();
        List<ContactRow> rows = new ArrayList<>();
        for (Meant m : meant) {
            String at = account == null ? likely.getOrDefault(m.address(), "") : account.key();
            rows.add(contact(m, name(choice, meant, m), at, undo));
        }
        directory.contacts(rows);
        return "made " + (rows.size() == 1 ? "a contact" : rows.size() + " contacts") + " of "
                + Stranger.listed(meant.stream().map(Meant::address).toList())
                + (account == null ? "" : " at " + account.name());
    }

    /** Their keys, by the stranger's address. */
    private Map<String, String> likelyAccounts(List<Meant> meant) {
        Map<String, String> accounts = new HashMap<>();
        strangers.likely(meant).stream()
                .filter(l -> l.kind().equals("account"))
                .forEach(l -> accounts.putIfAbsent(l.address(), l.key()));
        return accounts;
    }

    private static ContactRow contact(Meant m, String name, String account, Undo undo) {
        return contact(m, name, account, List.of(), undo);
    }

    private static ContactRow contact(Meant m, String name, String account, List<PhoneNumber> phones, Undo undo) {
        String key = "made-" + UUID.randomUUID();
        undo.contacts().add(key);
        return new ContactRow(0, key, name, List.of(EmailAddress.of(m.address())), phones, account, "", null, null);
    }

    private String newLeads(Choice choice, List<Meant> meant, Undo undo) throws ImportRejected {
        Set<String> freeMail = Set.copyOf(company.freeMail());
        List<LeadRow> rows = new ArrayList<>();
        meant.forEach(m -> rows.add(lead(m, name(choice, meant, m), freeMail, undo)));
        directory.leads(rows);
        return "made " + (meant.size() == 1 ? "a lead" : meant.size() + " leads") + " of "
                + Stranger.listed(meant.stream().map(Meant::address).toList());
    }

    private static LeadRow lead(Meant m, String name, Set<String> freeMail, Undo undo) {
        String key = "made-" + UUID.randomUUID();
        undo.leads().add(key);
        String where = freeMail.contains("@" + m.domain()) ? "" : Openings.titled(m.domain());
        return new LeadRow(0, key, name, List.of(EmailAddress.of(m.address())), where, "");
    }

    /** One account for each domain, with those strangers as its contacts. */
    private String newAccounts(Choice choice, List<Meant> meant, Undo undo) throws ImportRejected {
        Map<String, String> keys = new LinkedHashMap<>();
        meant.forEach(m -> keys.computeIfAbsent(m.domain(), d -> "made-" + UUID.randomUUID()));
        Set<String> freeMail = Set.copyOf(company.freeMail());
        String wanted = choice.name();
        List<AccountRow> accounts = new ArrayList<>();
        for (String domain : keys.keySet()) {
            if (freeMail.contains("@" + domain)) {
                throw Refusal.bad("Anybody can have an address at " + domain, "It can be no account’s domain.");
            }
            String name =
                    keys.size() == 1 && wanted != null && !wanted.isBlank() ? wanted.strip() : Openings.titled(domain);
            accounts.add(
                    new AccountRow(0, String.valueOf(keys.get(domain)), name, List.of(DomainName.of(domain)), "", ""));
        }
        List<ContactRow> contacts = new ArrayList<>();
        meant.forEach(m -> contacts.add(
                contact(m, Stranger.called(m.name(), m.address()), String.valueOf(keys.get(m.domain())), undo)));
        directory.accounts(accounts);
        directory.contacts(contacts);
        undo.accounts().addAll(keys.values());
        List<String> names = accounts.stream().map(AccountRow::name).toList();
        return "made " + (names.size() == 1 ? "the account " : names.size() + " accounts: ") + String.join(", ", names)
                + ", with " + (meant.size() == 1 ? "a contact" : meant.size() + " contacts");
    }

    /** At an account, with those strangers as contacts who have a part in it. */
    private String newOpportunity(Choice choice, List<Meant> meant, Undo undo) throws ImportRejected {
        Map<String, String> likely = choice.record() == null ? likelyAccounts(meant) : Map.of();
        Set<String> accounts = new TreeSet<>(likely.values());
        if (choice.record() != null) {
            accounts.add(targets.of(choice.record(), "account").key());
        }
        if (accounts.size() != 1) {
            throw Refusal.bad("An opportunity is one account’s", "Say which account it is.");
        }
        String account = accounts.iterator().next();
        List<ContactRow> contacts = new ArrayList<>();
        meant.forEach(m -> contacts.add(contact(m, Stranger.called(m.name(), m.address()), account, undo)));
        directory.contacts(contacts);
        String wanted = choice.name();
        String name =
                wanted == null || wanted.isBlank() ? "With " + contacts.get(0).name() : wanted.strip();
        opportunity(name, account, contacts.stream().map(ContactRow::key).toList(), undo);
        return "made the opportunity " + name + ", with "
                + (meant.size() == 1 ? "a contact" : meant.size() + " contacts");
    }

    private String opportunity(String name, String account, List<String> contacts, Undo undo) throws ImportRejected {
        String key = "made-" + UUID.randomUUID();
        undo.opportunities().add(key);
        directory.opportunities(List.of(new OpportunityRow(
                0,
                key,
                name,
                account,
                "new",
                DirectoryRows.OpportunityState.OPEN,
                null,
                "",
                DirectoryRows.Period.ONCE,
                "",
                "",
                contacts)));
        return key;
    }

    /** Makes a record of what an activity shows, and ties the activity to it. */
    @Transactional(rollbackFor = ImportRejected.class)
    MadeRecord make(NewRecord wanted, SignedIn me) throws ImportRejected {
        String name = wanted.name().strip();
        if (name.isEmpty() || name.length() > LONGEST_NAME) {
            throw Refusal.bad("The record needs a name", "Give 1 to " + LONGEST_NAME + " characters.");
        }
        Undo undo = Undo.nothing();
        long waiting = reopener.left();
        String key = switch (wanted.kind()) {
            case "contact" -> {
                Meant of = meant(wanted, name);
                String account = wanted.account() == null
                        ? likelyAccounts(List.of(of)).getOrDefault(of.address(), "")
                        : targets.of(wanted.account(), "account").key();
                ContactRow row = contact(of, name, account, phones(wanted.phones()), undo);
                directory.contacts(List.of(row));
                yield row.key();
            }
            case "lead" -> {
                LeadRow row = lead(meant(wanted, name), name, Set.copyOf(company.freeMail()), undo);
                directory.leads(List.of(row));
                yield row.key();
            }
            case "account" -> account(wanted, name, undo);
            case "opportunity" ->
                opportunity(name, targets.of(wanted.account(), "account").key(), List.of(), undo);
            default ->
                throw Refusal.bad(
                        "There is no “" + wanted.kind() + "” to make",
                        "It can be contact, lead, account or opportunity.");
        };
        RecordRef made = targets.made(wanted.kind(), key);
        if (wanted.item() != null) {
            pins.pin(wanted.item(), made, me.name());
        }
        String says = "made the " + made.kind() + " " + name;
        UUID deed = strangers.done(me.login(), says, undo.text());
        journal.add(me.login(), "made", new Thing(made.kind(), made.id().toString(), name), null, says);
        return new MadeRecord(made.id(), made.kind(), name, deed, says, Math.max(0, reopener.left() - waiting));
    }

    private List<PhoneNumber> phones(@Nullable List<String> written) {
        List<PhoneNumber> numbers = new ArrayList<>();
        for (String text : written == null ? List.<String>of() : written) {
            numbers.add(phones.parse(text)
                    .orElseThrow(() -> Refusal.bad(
                            "“" + text + "” is no telephone number",
                            "Write it with its country, such as +47 22 55 01 02.")));
        }
        return numbers;
    }

    private Meant meant(NewRecord wanted, String name) {
        EmailAddress address = EmailAddress.parse(wanted.address() == null ? "" : wanted.address())
                .orElseThrow(() -> Refusal.bad("It needs an address", "Give the address that they write from."));
        strangers.holder(address.toString()).ifPresent(known -> {
            throw Refusal.of(
                    HttpStatus.CONFLICT,
                    address + " is an address of " + known + " already",
                    "Merge two contacts on the page Triage, or give this one another address.");
        });
        return new Meant(address.toString(), address.domain(), name);
    }

    private String account(NewRecord wanted, String name, Undo undo) throws ImportRejected {
        List<DomainName> domains = new ArrayList<>();
        if (wanted.domain() != null && !wanted.domain().isBlank()) {
            DomainName domain = DomainName.parse(wanted.domain())
                    .orElseThrow(() -> Refusal.bad("“" + wanted.domain() + "” is no domain", "Write it as x.example."));
            if (company.freeMail().contains("@" + domain)
                    || company.ownDomains().contains("@" + domain)) {
                throw Refusal.bad(
                        "“" + domain + "” can be no account’s domain",
                        "Anybody can have an address there, or it is ours.");
            }
            domains.add(domain);
        }
        String key = "made-" + UUID.randomUUID();
        undo.accounts().add(key);
        directory.accounts(List.of(new AccountRow(0, key, name, domains, "", "")));
        return key;
    }

    private String exclude(Choice choice, List<Meant> meant, Undo undo, SignedIn me) {
        List<Exclusion> wanted = new ArrayList<>();
        choice.domains().forEach(d -> wanted.add(Exclusion.of(UUID.randomUUID(), "@" + d, "from triage")));
        meant.stream()
                .filter(m -> !choice.domains().contains(m.domain()))
                .forEach(m -> wanted.add(Exclusion.of(UUID.randomUUID(), m.address(), "from triage")));
        List<Exclusion> added = exclusions.add(wanted, me.login());
        added.forEach(e -> undo.exclusions().add(e.id()));
        return "excluded "
                + Stranger.listed(wanted.stream()
                        .map(e -> e.what().startsWith("@") ? e.what().substring(1) : e.what())
                        .toList());
    }

    private static String name(Choice choice, List<Meant> all, Meant m) {
        String wanted = choice.name();
        return all.size() == 1 && wanted != null && !wanted.isBlank()
                ? wanted.strip()
                : Stranger.called(m.name(), m.address());
    }

    @Transactional
    String undo(UUID id, SignedIn me) {
        TriageAction deed = strangers
                .undo(id)
                .orElseThrow(() -> Refusal.of(
                        HttpStatus.CONFLICT, "There is nothing to undo", "It was undone before, or never done."));
        Undo undo = Undo.of(deed.undo());
        twins.takeBack(undo);
        if (undo.before() == null && undo.contact() != null) {
            amending.take(undo.contact(), undo.given());
        }
        if (!undo.contacts().isEmpty()
                || !undo.leads().isEmpty()
                || !undo.accounts().isEmpty()
                || !undo.opportunities().isEmpty()) {
            amending.remove(undo.contacts(), undo.leads(), undo.accounts(), undo.opportunities());
        }
        if (!undo.parts().isEmpty()) {
            amending.leave(undo.parts());
        }
        openings.undone(id, undo.openNothing());
        exclusions.remove(undo.exclusions(), me.login());
        strangers.unhide(undo.hidden());
        strangers.notAgain(undo.notAgain());
        journal.add(me.login(), "took back", new Thing("triage", id.toString(), ""), deed.says(), null);
        return deed.says();
    }
}
