package jandrel.acceptance;

import jandrel.api.ActivityApi.ActivityInfo;
import jandrel.api.ActivityApi.SearchPage;
import jandrel.api.ActivityApi.TimelinePage;
import jandrel.api.ConnectionApi.NewConnection;
import jandrel.api.ConnectionApi.NewServer;
import jandrel.api.DecisionApi.DecisionInfo;
import jandrel.api.DecisionApi.DecisionPage;
import jandrel.api.DecisionApi.Summary;
import jandrel.api.DirectoryApi.CompanyDomains;
import jandrel.api.DirectoryApi.ImportOutcome;
import jandrel.api.PolicyApi.PolicyChange;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.api.RecordApi.RecordPage;
import jandrel.demo.DemoPolicy;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.Stand;
import jandrel.demo.StolenTime;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Callable;
import org.awaitility.Awaitility;
import org.awaitility.core.ConditionFactory;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ParameterContext;
import org.junit.jupiter.api.extension.ParameterResolver;

/** One running service with a small company, shared by the tests that do not break it; each uses people of its own. */
final class Harbour implements AutoCloseable {
    final Running process;
    final Service admin;
    final Stand stand;
    final Providers providers;

    /** Gives the shared one to tests that ask for it: one for each JVM that runs tests, until it ends. */
    static final class Shared implements ParameterResolver {
        private static @Nullable Harbour open;

        @Override
        public boolean supportsParameter(ParameterContext parameter, ExtensionContext context) {
            return parameter.getParameter().getType() == Harbour.class;
        }

        @Override
        public Object resolveParameter(ParameterContext parameter, ExtensionContext context) {
            return shared();
        }

        private static synchronized Harbour shared() {
            Harbour is = open;
            if (is == null) {
                is = open("acceptance_" + ProcessHandle.current().pid());
                open = is;
            }
            return is;
        }
    }

    private Harbour(Running process, Stand stand) throws Exception {
        this.process = process;
        this.stand = stand;
        this.providers = new Providers(stand);
        this.admin = process.service.administrator();
    }

    /** As after its first start. */
    static Harbour empty(String database, Map<String, String> settings) throws Exception {
        return new Harbour(new Running(database, settings), Stand.fromEnvironment());
    }

    private Harbour furnished() throws Exception {
        admin.put(
                "/api/company",
                new CompanyDomains(List.of("corvane.example"), List.of("fjordpost.example")),
                CompanyDomains.class);
        admin.post("/api/servers", new NewServer("mail", "imap", "127.0.0.1", stand.port("IMAPS"), null), Object.class);
        admin.post(
                "/api/servers",
                new NewServer("calendars", "caldav", "127.0.0.1", stand.port("CALDAV"), "/"),
                Object.class);
        return this;
    }

    static Harbour open(String database) {
        return open(database, Map.of());
    }

    static Harbour open(String database, Map<String, String> settings) {
        return open(database, settings, Stand.fromEnvironment());
    }

    static Harbour open(String database, Map<String, String> settings, Stand stand) {
        try {
            return new Harbour(new Running(database, settings), stand).furnished();
        } catch (Exception failed) {
            throw new IllegalStateException("the service for the tests did not start: " + failed, failed);
        }
    }

    /** So many of this machine's own, for what is only waited for; what is promised in seconds is held to the clock. */
    static Duration seconds(int many) {
        return StolenTime.patience(Duration.ofSeconds(many));
    }

    static ConditionFactory soon() {
        return Awaitility.await().atMost(seconds(40)).pollInterval(Duration.ofMillis(150));
    }

    /** A person with mailbox, calendar and sign-in; the key is the login and the local part of the address. */
    String person(String key, String role) throws Exception {
        String address = key + "@corvane.example";
        providers.addUser(address);
        providers.calendar(address);
        csv("people", "key,name,addresses\n" + key + ",Person " + key + "," + address);
        admin.addSignIn(key, "Person " + key, Providers.PASSWORD, role, key);
        return address;
    }

    void connectMail(String key) throws Exception {
        admin.post(
                "/api/connections",
                new NewConnection(key, "mail", key + "@corvane.example", Providers.PASSWORD),
                Object.class);
    }

    void connectCalendar(String key) throws Exception {
        admin.post(
                "/api/connections",
                new NewConnection(key, "calendars", key + "@corvane.example", Providers.PASSWORD),
                Object.class);
    }

    ImportOutcome csv(String kind, String file) throws Exception {
        return admin.postCsv("/api/directory/" + kind, file, ImportOutcome.class);
    }

    /** An account with one contact at its own domain, {@code bram@KEY.example}. */
    UUID account(String key) throws Exception {
        csv("accounts", "key,name,domains\n" + key + ",Account " + key + "," + key + ".example");
        csv(
                "contacts",
                "key,name,addresses,account\n" + key + "-bram,Bram of " + key + ",bram@" + key + ".example," + key);
        return record("Account " + key);
    }

    UUID record(String name) throws Exception {
        return admin.get("/api/records?name=" + name.replace(" ", "%20"), RecordPage.class)
                .records()
                .get(0)
                .id();
    }

    List<ActivityInfo> timeline(UUID record) throws Exception {
        return admin.get("/api/records/" + record + "/timeline?limit=200", TimelinePage.class)
                .activities();
    }

    List<DecisionInfo> decisions(String query) throws Exception {
        return admin.get("/api/decisions?limit=200&" + query, DecisionPage.class)
                .decisions();
    }

    /** The policy for everyone, as it is but for this. */
    void sharing(String sharing) throws Exception {
        PolicyInfo now = Arrays.stream(admin.get("/api/policies", PolicyInfo[].class))
                .filter(p -> p.rules().name().equals("Everyone"))
                .findFirst()
                .orElseThrow();
        admin.put(
                "/api/policies/" + now.id(),
                new PolicyChange(
                        now.version(),
                        DemoPolicy.of("Everyone").everyone().sharing(sharing).rules()),
                PolicyInfo.class);
    }

    /** The policy for everyone as it is, but for these settings, as the API names them. */
    @SuppressWarnings("unchecked")
    void everyone(Map<String, ?> settings) throws Exception {
        Map<String, Object> now = (Map<String, Object>) Arrays.stream(admin.get("/api/policies", Object[].class))
                .filter(p -> ((Map<String, Map<String, Object>>) p)
                        .get("rules")
                        .get("name")
                        .equals("Everyone"))
                .findFirst()
                .orElseThrow();
        Map<String, Object> rules = new HashMap<>((Map<String, Object>) now.get("rules"));
        rules.putAll(settings);
        admin.put(
                "/api/policies/" + now.get("id"),
                Map.of("version", now.get("version"), "rules", rules),
                PolicyInfo.class);
    }

    /** Meetings flow both ways for everyone, and all that is made here goes out. */
    void bothWays() throws Exception {
        PolicyInfo now = Arrays.stream(admin.get("/api/policies", PolicyInfo[].class))
                .filter(p -> p.rules().name().equals("Everyone"))
                .findFirst()
                .orElseThrow();
        admin.put(
                "/api/policies/" + now.id(),
                new PolicyChange(
                        now.version(),
                        DemoPolicy.of("Everyone").everyone().bothWays().rules()),
                PolicyInfo.class);
    }

    /** Waits until every connection was read and nothing is left to decide or fetch again. */
    void settle() {
        soon().until(() -> {
            Summary s = admin.get("/api/summary", Summary.class);
            return s.connecting() == 0 && s.reconsidering() == 0 && s.refetching() == 0;
        });
    }

    /** All that was captured can be found by its words. */
    void indexed() {
        soon().until(() ->
                !admin.get("/api/search?words=indexed", SearchPage.class).catchingUp());
    }

    static <T> void until(Callable<T> value, T expected) {
        soon().until(value, expected::equals);
    }

    static String letter(String id, Instant at, String from, String to, String subject, String text) {
        return "Message-ID: <" + id + "@test.example>\r\nDate: "
                + DateTimeFormatter.ofPattern("EEE, d MMM uuuu HH:mm:ss Z", Locale.ENGLISH)
                        .withZone(ZoneOffset.UTC)
                        .format(at)
                + "\r\nFrom: " + from + "\r\nTo: " + to + "\r\nSubject: " + subject + "\r\n\r\n" + text + "\r\n";
    }

    @Override
    public void close() {
        process.close();
    }
}
