package jandrel.service.triage;

import jandrel.api.TriageApi.Merge;
import jandrel.api.TriageApi.Settled;
import jandrel.api.TriageApi.TwinsInfo;
import jandrel.api.TriageApi.TwoPeople;
import jandrel.service.kernel.WakeUp;
import jandrel.service.people.SignedIn;
import jandrel.store.triage.TwinAccounts;
import jandrel.store.triage.TwinContacts;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Records that may be one, and what is done about them. */
@RestController
class TwinCalls {
    private static final int MOST = 200;
    private final TwinContacts contacts;
    private final TwinAccounts accounts;
    private final SettlingTwins settling;
    private final WakeUp nudges;

    TwinCalls(TwinContacts contacts, TwinAccounts accounts, SettlingTwins settling, WakeUp nudges) {
        this.contacts = contacts;
        this.accounts = accounts;
        this.settling = settling;
        this.nudges = nudges;
    }

    /**
     * Accounts that may be one, then contacts.
     *
     * @param of one of each pair; missing for all
     */
    @GetMapping("/api/triage/twins")
    List<TwinsInfo> twins(@RequestParam(name = "of", required = false) @Nullable UUID of) {
        List<TwinsInfo> all = new ArrayList<>();
        List<TwinAccounts.Twins> customers = accounts.all(of, MOST);
        Map<UUID, String> domains = accounts.domains(customers);
        customers.forEach(t -> all.add(new TwinsInfo(
                "account",
                t.one().id(),
                t.one().name(),
                domains.getOrDefault(t.one().id(), ""),
                t.other().id(),
                t.other().name(),
                domains.getOrDefault(t.other().id(), ""),
                "",
                t.why())));
        List<TwinContacts.Twins> people = contacts.all(of, MOST - all.size());
        Map<UUID, String> addresses = contacts.addresses(people);
        people.forEach(t -> all.add(new TwinsInfo(
                "contact",
                t.one(),
                t.oneName(),
                addresses.getOrDefault(t.one(), ""),
                t.other(),
                t.otherName(),
                addresses.getOrDefault(t.other(), ""),
                t.account(),
                t.why())));
        return all;
    }

    /** Says that two contacts are two people, or two accounts two customers, so that nobody is asked again. */
    @PostMapping("/api/triage/apart")
    Settled apart(@RequestBody TwoPeople two, @AuthenticationPrincipal SignedIn me) {
        return settling.apart(two.one(), two.other(), me);
    }

    /** Makes one record of two contacts, accounts or leads; it keeps what both have. */
    @PostMapping("/api/triage/merge")
    Settled merge(@RequestBody Merge wanted, @AuthenticationPrincipal SignedIn me) {
        Settled settled = settling.merge(wanted.stays(), wanted.goes(), me);
        nudges.rulesChanged();
        return settled;
    }
}
