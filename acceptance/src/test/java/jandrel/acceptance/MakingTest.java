package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static jandrel.acceptance.Harbour.soon;
import static jandrel.acceptance.Harbour.until;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.DirectoryApi.CompanyDomains;
import jandrel.api.PolicyApi.ConditionRule;
import jandrel.api.PolicyApi.CreationRules;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.api.PolicyApi.WouldMake;
import jandrel.api.RecordApi.RecordInfo;
import jandrel.api.RecordApi.RecordPage;
import jandrel.api.TriageApi.Choice;
import jandrel.api.TriageApi.DeedInfo;
import jandrel.api.TriageApi.MadeRecord;
import jandrel.api.TriageApi.NewRecord;
import jandrel.api.TriageApi.Settled;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Records made of activities and of strangers: by a person, and by a policy without one. */
class MakingTest {
    private static final Instant DAY =
            Instant.now().truncatedTo(ChronoUnit.HOURS).minus(2, ChronoUnit.DAYS);
    private static Harbour h;

    @BeforeAll
    static void open() throws Exception {
        h = Harbour.open("acceptance_making", Map.of("JANDREL_LOOK_EVERY", "1s"));
    }

    @AfterAll
    static void close() {
        h.close();
    }

    /** Somebody with a mailbox, and an account whose contact wrote to them together with a stranger. */
    private static UUID met(String key, String stranger) throws Exception {
        String who = h.person(key, "rep");
        UUID account = h.account(key);
        h.providers.mail(
                who,
                "",
                DAY,
                letter(key + "-1", DAY, "bram@" + key + ".example", who + ", " + stranger, "Forty buoys", "x"));
        h.connectMail(key);
        until(() -> h.timeline(account).size(), 1);
        return account;
    }

    private static RecordInfo record(String name) throws Exception {
        return h.admin.get("/api/records?name=" + name.replace(" ", "%20"), RecordPage.class).records().stream()
                .filter(r -> r.name().equals(name))
                .findFirst()
                .orElseThrow();
    }

    private static boolean isThere(String name) throws Exception {
        return h.admin.get("/api/records?name=" + name.replace(" ", "%20"), RecordPage.class).records().stream()
                .anyMatch(r -> r.name().equals(name));
    }

    private static MadeRecord make(String kind, String name, String address, UUID account, String domain, UUID item)
            throws Exception {
        return h.admin.post(
                "/api/records", new NewRecord(kind, name, address, account, domain, null, item), MadeRecord.class);
    }

    @Test
    void everyKindOfRecordIsMadeOfAnActivityAndTiedToIt() throws Exception {
        UUID account = met("made", "Ida Moe <ida@made.example>, Ole Vik <ole@vikmarine.example>");
        ActivityInfo activity = h.timeline(account).get(0);
        UUID item = activity.id();
        // the account is the one with the domain, where nobody says otherwise
        MadeRecord ida = make("contact", "Ida Moe", "ida@made.example", null, null, item);
        assertThat(record("Ida Moe").accountName()).isEqualTo("Account made");
        until(() -> h.timeline(ida.id()).size(), 1);
        MadeRecord lead = make("lead", "Ole Vik", "ole@vikmarine.example", null, null, null);
        until(() -> h.timeline(lead.id()).size(), 1);
        MadeRecord vik = make("account", "Vik Marine", null, null, "vikmarine.example", item);
        until(() -> h.timeline(vik.id()).size(), 1);
        MadeRecord forty = make("opportunity", "Forty buoys", null, account, null, item);
        until(() -> h.timeline(forty.id()).size(), 1);
        assertThat(record("Forty buoys").accountName()).isEqualTo("Account made");
        // each is taken back by itself
        assertThat(h.admin
                        .ask("POST", "/api/triage/deeds/" + forty.deed() + "/undo", "{}")
                        .statusCode())
                .isEqualTo(204);
        assertThat(isThere("Forty buoys")).isFalse();
        assertThat(h.admin
                        .ask("POST", "/api/triage/deeds/" + ida.deed() + "/undo", "{}")
                        .statusCode())
                .isEqualTo(204);
        assertThat(isThere("Ida Moe")).isFalse();
        assertThat(h.timeline(account)).hasSize(1);
    }

    @Test
    void whoeverWritesFromAnotherAddressIsRecognisedByWhatTheyWrite() throws Exception {
        String who = h.person("tells", "rep");
        UUID account = h.account("tells");
        h.csv(
                "contacts",
                "key,name,addresses,phones,account\ntells-ida,Idun Moe,ida@tells.example,+47 22 55 01 02,tells");
        h.providers.mail(who, ".Sent", DAY, letter("tells-1", DAY, who, "ida@tells.example", "Forty buoys", "Well?"));
        String answer = letter(
                        "tells-2", DAY, "Ida M <im@home-post.example>", who, "Re: Forty buoys", "Yes.\r\n\r\nIda")
                .replace("Subject:", "In-Reply-To: <tells-1@test.example>\r\nSubject:");
        h.providers.mail(who, "", DAY, answer);
        String signed = "Hello.\r\n\r\n-- \r\nIdun Moe\r\nphone (+47) 22 55 01 02";
        h.providers.mail(who, "", DAY, letter("tells-3", DAY, "x@third-post.example", who, "Hello", signed));
        h.connectMail("tells");
        until(() -> h.decisions("address=x@third-post.example&verdict=waiting").size(), 1);
        until(() -> h.decisions("address=im@home-post.example&verdict=waiting").size(), 1);
        Client client = Client.of(h);
        assertThat(client.run("strangers", "--find", "home-post"))
                .contains("Idun Moe of Account tells: they answered what was written to ida@tells.example");
        assertThat(client.run("strangers", "--find", "third-post"))
                .contains("Idun Moe of Account tells: the same telephone number in their signature");
        // and the number is one of the contact's own
        assertThat(record("Idun Moe").phones()).containsExactly("+4722550102");
        client.run("settle", "contact", "x@third-post.example", "im@home-post.example", "--record", "Idun Moe");
        until(() -> h.timeline(account).size(), 3);
    }

    @Test
    void aContactIsMadeWithTheNumbersOfItsSignature() throws Exception {
        UUID account = met("dial", "x@dial.example");
        UUID item = h.timeline(account).get(0).id();
        Client client = Client.of(h);
        client.run(
                "make-record",
                "contact",
                "Dial Berg",
                "--address",
                "x@dial.example",
                "--from",
                item.toString(),
                "--phone",
                "+47 22 55 01 03",
                "--phone",
                "tel:+47-900-11-224");
        assertThat(record("Dial Berg").phones()).containsExactly("+4722550103", "+4790011224");
        assertThat(client.run("make-record", "contact", "Other", "--address", "y@dial.example", "--phone", "none"))
                .contains("“none” is no telephone number");
    }

    @Test
    void whatDoesNotFitMakesNothing() throws Exception {
        UUID account = met("unmade", "x@unmade.example");
        UUID item = h.timeline(account).get(0).id();
        assertThatThrownBy(() -> make("contact", "Nobody", "no address", null, null, item))
                .hasMessageContaining("needs an address");
        assertThatThrownBy(() -> make("opportunity", "Of nobody", null, null, null, item))
                .hasMessageContaining("no such account");
        assertThatThrownBy(() -> make("account", "Of all", null, null, "fjordpost.example", null))
                .hasMessageContaining("no account’s domain");
        assertThatThrownBy(() -> make("contact", "Twin", "bram@unmade.example", null, null, item))
                .hasMessageContaining("an address of Bram of unmade already");
        assertThatThrownBy(() -> make("lead", " ", "x@unmade.example", null, null, null))
                .hasMessageContaining("needs a name");
        Service rep = h.process.signedIn("unmade", Providers.PASSWORD);
        assertThatThrownBy(() -> rep.post(
                        "/api/records",
                        new NewRecord("lead", "By a rep", "x@unmade.example", null, null, null, item),
                        MadeRecord.class))
                .hasMessageContaining("does not allow");
    }

    @Test
    void anOpportunityIsMadeOfStrangersWithThemAsItsContacts() throws Exception {
        UUID account = met("opening", "Rosa Lind <rosa@opening.example>");
        Settled settled = h.admin.post(
                "/api/triage/settle",
                new Choice("new-opportunity", List.of("rosa@opening.example"), List.of(), account, "A second quay"),
                Settled.class);
        assertThat(settled.says()).isEqualTo("made the opportunity A second quay, with a contact");
        UUID opportunity = record("A second quay").id();
        until(() -> h.timeline(opportunity).size(), 1);
        assertThat(h.admin
                        .ask("POST", "/api/triage/deeds/" + settled.deed() + "/undo", "{}")
                        .statusCode())
                .isEqualTo(204);
        assertThat(isThere("A second quay")).isFalse();
        assertThat(isThere("Rosa Lind")).isFalse();
    }

    private static PolicyInfo policy() throws Exception {
        return Arrays.stream(h.admin.get("/api/policies", PolicyInfo[].class))
                .filter(p -> p.rules().name().equals("Everyone"))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aPolicyMakesContactsOfThoseWhoMeetItsConditionsUntilItIsTakenBack() throws Exception {
        String who = h.person("maker3", "rep");
        h.account("maker3");
        String known = "Anna Berg <anna@maker3.example>";
        h.providers.mail(who, "", DAY, letter("maker3-1", DAY, known, who, "Hello", "x"));
        h.providers.mail(who, ".Sent", DAY, letter("maker3-2", DAY.plusSeconds(60), who, known, "Re: hello", "x"));
        h.providers.mail(who, "", DAY, letter("maker3-3", DAY, "One Way <oneway@maker3.example>", who, "Offer", "x"));
        h.connectMail("maker3");
        h.settle();
        CreationRules rules = new CreationRules(
                "contacts", List.of(new ConditionRule("two-way", "is", 1), new ConditionRule("at-account", "is", 1)));
        // rehearsed: who it would be, and nothing is made
        WouldMake would = h.admin.post("/api/policies/" + policy().id() + "/would-make", rules, WouldMake.class);
        assertThat(would.strangers()).contains("Anna Berg, anna@maker3.example").noneMatch(s -> s.contains("oneway"));
        Thread.sleep(2_500);
        assertThat(isThere("Anna Berg")).isFalse();
        assertThatThrownBy(() -> h.everyone(Map.of("creation", new CreationRules("contacts", List.of()))))
                .hasMessageContaining("at least one condition");
        h.everyone(Map.of("creation", rules));
        soon().until(() -> isThere("Anna Berg"));
        assertThat(record("Anna Berg").accountName()).isEqualTo("Account maker3");
        assertThat(record("Anna Berg").detail()).contains("made by the policy “Everyone”");
        until(() -> h.timeline(record("Anna Berg").id()).size(), 2);
        assertThat(isThere("One Way")).isFalse();
        DeedInfo deed = Arrays.stream(h.admin.get("/api/triage/deeds", DeedInfo[].class))
                .filter(d -> d.by().equals("service") && d.says().contains("anna@maker3.example"))
                .findFirst()
                .orElseThrow();
        assertThat(deed.says()).contains("as the policy “Everyone” says");
        // taken back as a batch, and it does not begin again
        assertThat(h.admin
                        .ask("POST", "/api/triage/deeds/" + deed.id() + "/undo", "{}")
                        .statusCode())
                .isEqualTo(204);
        Thread.sleep(3_500);
        assertThat(isThere("Anna Berg")).isFalse();
        h.everyone(Map.of("creation", new CreationRules("nothing", List.of())));
    }

    @Test
    void aProviderThatIgnoresDotsHasOneMailboxForAllOfThem() throws Exception {
        String who = h.person("dotty", "rep");
        UUID account = h.account("dotty");
        h.csv("contacts", "key,name,addresses,account\ndotty-jo,Jo Anne Berg,jo.anne.berg@fjordpost.example,dotty");
        h.providers.mail(
                who, "", DAY, letter("dotty-1", DAY, "joanneberg+boats@fjordpost.example", who, "Undotted", "x"));
        h.connectMail("dotty");
        until(
                () -> h.decisions("address=joanneberg@fjordpost.example&verdict=waiting")
                        .size(),
                1);
        CompanyDomains before = h.admin.get("/api/company", CompanyDomains.class);
        CompanyDomains with = new CompanyDomains(before.own(), before.freeMail(), List.of("fjordpost.example"));
        h.admin.put("/api/company", with, CompanyDomains.class);
        until(() -> h.timeline(account).size(), 1);
        assertThat(h.decisions("address=joanneberg@fjordpost.example")
                        .get(0)
                        .trail()
                        .get(0))
                .isEqualTo("joanneberg+boats@fjordpost.example is the same mailbox as jo.anne.berg@fjordpost.example:"
                        + " fjordpost.example ignores dots.");
        // somebody new is found by what is known already, and an exclusion covers all of them
        Client client = Client.of(h);
        client.run("exclude", "j.o.anneberg@fjordpost.example");
        until(() -> h.timeline(account).size(), 0);
        client.run("include", "j.o.anneberg@fjordpost.example");
        until(() -> h.timeline(account).size(), 1);
        h.admin.put(
                "/api/company",
                new CompanyDomains(before.own(), before.freeMail(), before.dotless()),
                CompanyDomains.class);
        until(() -> h.timeline(account).size(), 0);
    }

    @Test
    void theClientSettlesStrangersAndTakesItBack() throws Exception {
        UUID account = met("clerk", "Una Holt <una@holt-survey.example>");
        Client client = Client.of(h);
        assertThat(client.run("strangers", "--find", "holt-survey")).contains("Una Holt", "una@holt-survey.example");
        assertThat(client.run("settle", "new-account", "holt-survey.example", "--name", "Holt Survey"))
                .contains("made the account Holt Survey, with a contact: 1 item is decided again");
        until(() -> h.timeline(record("Holt Survey").id()).size(), 1);
        assertThat(client.run("settled")).contains("admin", "made the account Holt Survey");
        assertThat(client.run("take-back")).contains("Undone: made the account Holt Survey");
        assertThat(isThere("Holt Survey")).isFalse();
        String item = h.timeline(account).get(0).id().toString();
        assertThat(client.run(
                        "make-record", "contact", "Una Holt", "--from", item, "--address", "una@holt-survey.example"))
                .contains("made the contact Una Holt", "jandrel take-back");
        assertThat(client.run("settle", "nonsense", "una@clerk.example")).contains("None of these is a stranger");
        soon().until(() -> client.run("why", item).contains("Una Holt"));
    }
}
