package jandrel.acceptance;

import static jandrel.acceptance.Harbour.letter;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.ActivityApi.ReadersChoice;
import jandrel.api.PolicyApi.AudienceInfo;
import jandrel.api.PolicyApi.PolicyChange;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.demo.DemoPolicy;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.TestInstance;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Who reads what: every role over every way out, from one table of expectations. */
@ExtendWith(Harbour.Shared.class)
@TestInstance(TestInstance.Lifecycle.PER_CLASS)
class SharingTest {
    /** F: in full; o: the outline. One column a reader, one row a way of sharing. */
    private static final String TABLE = """
            sharing       owner colleague mate stranger manager auditor admin
            everyone      F     F         F    F        F       o       F
            team          F     F         F    o        o       o       o
            those-on-it   F     F         o    o        o       o       o
            owner         F     o         o    o        o       o       o
            opened        F     o         o    F        o       o       o
            closed        F     o         F    o        o       o       o
            """;

    private static final String SECRET = "moonpool";
    private final Harbour h;
    private final Map<String, Service> readers = new LinkedHashMap<>();
    private UUID policy;
    private UUID record;
    private String activity;

    SharingTest(Harbour harbour) {
        h = harbour;
    }

    @BeforeAll
    void fill() throws Exception {
        String owner = h.person("sh-owner", "rep");
        String colleague = h.person("sh-colleague", "rep");
        h.person("sh-mate", "rep");
        h.person("sh-stranger", "rep");
        h.person("sh-manager", "manager");
        h.admin.addSignIn("sh-auditor", "A", Providers.PASSWORD, "auditor", null);
        StringBuilder people = new StringBuilder("key,name,addresses,team\n");
        for (String key : List.of("owner", "mate", "colleague", "stranger", "manager")) {
            String team = List.of("owner", "mate").contains(key) ? "Deep" : "Shallow";
            people.append("sh-" + key + ",Person sh-" + key + ",sh-" + key + "@corvane.example," + team + "\n");
        }
        h.csv("people", people.toString());
        record = h.account("sharing");
        Instant at = Instant.now().minus(1, ChronoUnit.DAYS);
        h.providers.mail(
                owner,
                "",
                at,
                letter("sharing-1", at, "bram@sharing.example", owner + ", " + colleague, SECRET + " survey", SECRET));
        policy = h.admin
                .post("/api/policies", rules("everyone").rules(), PolicyInfo.class)
                .id();
        h.admin.post("/api/policies/" + policy + "/on", Map.of(), PolicyInfo.class);
        h.connectMail("sh-owner");
        h.settle();
        h.indexed();
        activity = h.timeline(record).get(0).id().toString();
        for (String reader : List.of("owner", "colleague", "mate", "stranger", "manager", "auditor")) {
            readers.put(reader, h.process.signedIn("sh-" + reader, Providers.PASSWORD));
        }
        readers.put("admin", h.admin);
    }

    private static DemoPolicy rules(String sharing) {
        return new DemoPolicy(
                "sharing",
                new AudienceInfo(false, List.of("sh-owner"), List.of(), List.of()),
                sharing,
                true,
                90,
                60,
                false,
                "none",
                null);
    }

    private void share(String way) throws Exception {
        String sharing = way.equals("opened") ? "owner" : way.equals("closed") ? "everyone" : way;
        int version = h.admin.get("/api/policies/" + policy, PolicyInfo.class).version();
        h.admin.put(
                "/api/policies/" + policy,
                new PolicyChange(version, rules(sharing).rules()),
                PolicyInfo.class);
        h.settle();
        Service owner = readers.get("owner");
        owner.ask("DELETE", "/api/activities/" + activity + "/readers", "");
        if (!way.equals(sharing)) {
            owner.put(
                    "/api/activities/" + activity + "/readers",
                    new ReadersChoice(
                            way.equals("opened"), List.of(way.equals("opened") ? "sh-stranger" : "sh-mate"), List.of()),
                    Object.class);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"everyone", "team", "those-on-it", "owner", "opened", "closed"})
    void everyReaderGetsByEveryWayOutWhatTheTableSays(String way) throws Exception {
        share(way);
        List<String[]> rows = TABLE.lines().map(l -> l.split("\\s+")).toList();
        String[] row = rows.stream().filter(r -> r[0].equals(way)).findFirst().orElseThrow();
        for (int i = 1; i < row.length; i++) {
            check(rows.get(0)[i], row[i].equals("F"), way);
        }
    }

    private void check(String reader, boolean full, String sharing) throws Exception {
        Service service = readers.get(reader);
        Map<String, String> ways = Map.of(
                "list", "/api/records/" + record + "/timeline",
                "open", "/api/activities/" + activity,
                "search", "/api/search?words=" + SECRET,
                "export", "/api/records/" + record + "/timeline.csv",
                "decisions", "/api/decisions?item=" + activity,
                "decisions export", "/api/decisions.csv?item=" + activity,
                "by address", "/api/decisions?address=bram@sharing.example");
        boolean lists = !List.of("colleague", "mate", "stranger").contains(reader);
        for (Map.Entry<String, String> way : ways.entrySet()) {
            String body = service.ask("GET", way.getValue(), "").body();
            String said = reader + " by " + way.getKey() + " under " + sharing;
            boolean ofDecisions =
                    way.getKey().startsWith("decisions") || way.getKey().equals("by address");
            if (full && (lists || !ofDecisions)) {
                assertThat(body).as(said).contains(SECRET);
            } else {
                assertThat(body).as(said).doesNotContain(SECRET).doesNotContain("bram@sharing");
            }
        }
        assertThat(service.ask("GET", "/api/search?words=" + SECRET, "").body())
                .as("the count for " + reader + " under " + sharing)
                .contains("\"total\":" + (full ? 1 : 0));
    }
}
