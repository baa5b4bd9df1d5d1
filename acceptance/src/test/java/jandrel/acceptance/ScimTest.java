package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.PolicyApi.CoverageInfo;
import jandrel.api.PolicyApi.PolicyInfo;
import jandrel.demo.DemoPolicy;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import java.net.http.HttpResponse;
import java.util.Arrays;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** People and teams come by SCIM 2.0 (RFC 7643, RFC 7644) and fall under the right policy, with nobody picking them. */
@ExtendWith(Harbour.Shared.class)
class ScimTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();
    private final Harbour h;

    ScimTest(Harbour harbour) {
        h = harbour;
    }

    private JsonNode ask(String method, String path, String body, int status) throws Exception {
        HttpResponse<String> answer = h.admin.ask(method, "/scim/v2" + path, body);
        assertThat(answer.statusCode()).as(answer.body()).isEqualTo(status);
        return answer.body().isEmpty() ? JSON.createObjectNode() : JSON.readTree(answer.body());
    }

    private CoverageInfo coverage(String key) throws Exception {
        return Arrays.stream(h.admin.get("/api/coverage", CoverageInfo[].class))
                .filter(c -> c.key().equals(key))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void aUserJoinsAGroupIsCoveredByItsPolicyAndLeaves() throws Exception {
        h.admin.post(
                "/api/policies", DemoPolicy.of("Scim team").teams("Drifters").rules(), PolicyInfo.class);
        JsonNode made = ask("POST", "/Users", """
                {"schemas":["urn:ietf:params:scim:schemas:core:2.0:User"],"userName":"drift@corvane.example",
                 "name":{"givenName":"Dora","familyName":"Rift"},"userType":"rep",
                 "emails":[{"value":"Drift@Corvane.example","primary":true}],"active":true}""", 201);
        String id = made.path("id").asString();
        assertThat(made.path("displayName").asString()).isEqualTo("Dora Rift");
        assertThat(coverage("drift@corvane.example").policyName()).isNotEqualTo("Scim team");
        JsonNode group =
                ask("POST", "/Groups", "{\"displayName\":\"Drifters\",\"members\":[{\"value\":\"" + id + "\"}]}", 201);
        assertThat(group.path("members").size()).isEqualTo(1);
        assertThat(coverage("drift@corvane.example").policyName()).isEqualTo("Scim team");
        assertThat(coverage("drift@corvane.example").why()).isEqualTo("team Drifters");
        JsonNode found = ask("GET", "/Users?filter=userName%20eq%20%22drift@corvane.example%22", "", 200);
        assertThat(found.path("totalResults").asInt()).isEqualTo(1);
        JsonNode off = ask("PATCH", "/Users/" + id, """
                {"schemas":["urn:ietf:params:scim:api:messages:2.0:PatchOp"],
                 "Operations":[{"op":"replace","path":"active","value":false}]}""", 200);
        assertThat(off.path("active").asBoolean()).isFalse();
        assertThat(coverage("drift@corvane.example").coverUntil()).isNotNull();
        ask(
                "PATCH",
                "/Groups/" + group.path("id").asString(),
                "{\"Operations\":[{\"op\":\"remove\",\"path\":\"members[value eq \\\"nobody\\\"]\"}]}",
                400);
        ask(
                "PATCH",
                "/Groups/" + group.path("id").asString(),
                "{\"Operations\":[{\"op\":\"remove\",\"path\":\"members[value eq \\\"" + id + "\\\"]\"}]}",
                200);
        assertThat(coverage("drift@corvane.example").team()).isEmpty();
        ask("DELETE", "/Groups/" + group.path("id").asString(), "", 204);
    }

    @Test
    void aGroupGetsOtherMembersAndThoseWhoStayAreNotTouched() throws Exception {
        String[] ids = new String[3];
        for (int i = 0; i < ids.length; i++) {
            ids[i] = ask("POST", "/Users", "{\"userName\":\"swap" + i + "@corvane.example\"}", 201)
                    .path("id")
                    .asString();
        }
        String group = ask(
                        "POST",
                        "/Groups",
                        "{\"displayName\":\"Swappers\",\"members\":" + values(ids[0], ids[1]) + "}",
                        201)
                .path("id")
                .asString();
        String told = "SELECT count(*) FROM journal WHERE what = 'was told of' AND thing = '" + ids[1] + "'";
        long before = h.process.count(told);
        ask(
                "PATCH",
                "/Groups/" + group,
                "{\"Operations\":[{\"op\":\"replace\",\"path\":\"members\",\"value\":" + values(ids[1], ids[2]) + "}]}",
                200);
        assertThat(coverage("swap0@corvane.example").team()).isEmpty();
        assertThat(coverage("swap1@corvane.example").team()).isEqualTo("Swappers");
        assertThat(coverage("swap2@corvane.example").team()).isEqualTo("Swappers");
        assertThat(h.process.count(told)).as("who stays is not told of again").isEqualTo(before);
    }

    private static String values(String... ids) {
        return Arrays.stream(ids)
                .map(id -> "{\"value\":\"" + id + "\"}")
                .collect(java.util.stream.Collectors.joining(",", "[", "]"));
    }

    @Test
    void whatDoesNotFitIsRefusedInTheStandardsWords() throws Exception {
        ask("POST", "/Users", "{\"userName\":\"twice@corvane.example\"}", 201);
        assertThat(ask("POST", "/Users", "{\"userName\":\"twice@corvane.example\"}", 409)
                        .path("scimType")
                        .asString())
                .isEqualTo("uniqueness");
        assertThat(ask("POST", "/Users", "{\"userName\":\"no address\"}", 400)
                        .path("detail")
                        .asString())
                .contains("address");
        ask("GET", "/Users/00000000-0000-0000-0000-000000000001", "", 404);
        ask("GET", "/Users?filter=emails%20co%20%22x%22", "", 400);
        assertThat(ask("GET", "/ServiceProviderConfig", "", 200)
                        .path("patch")
                        .path("supported")
                        .asBoolean())
                .isTrue();
        h.person("scim-rep", "rep");
        assertThat(h.process
                        .signedIn("scim-rep", Providers.PASSWORD)
                        .ask("GET", "/scim/v2/Users", "")
                        .statusCode())
                .isEqualTo(403);
    }

    /** The end of cover is an administrator's decision, and says nothing of who works here. */
    @Test
    void whoseCoverHasEndedKeepsTheirSignInUntilTheyAreSaidToHaveLeft() throws Exception {
        h.person("scim-stays", "rep");
        String id = ask("GET", "/Users?filter=userName%20eq%20%22scim-stays%22", "", 200)
                .path("Resources")
                .get(0)
                .path("id")
                .asString();
        h.admin.put("/api/people/" + id + "/cover", Map.of("until", "2026-01-31"), Object.class);
        Service stays = h.process.signedIn("scim-stays", Providers.PASSWORD);
        JsonNode group = ask("POST", "/Groups", "{\"displayName\":\"Stayers\",\"members\":" + values(id) + "}", 201);
        ask(
                "PATCH",
                "/Users/" + id,
                "{\"Operations\":[{\"op\":\"replace\",\"path\":\"displayName\",\"value\":\"Stays\"}]}",
                200);
        assertThat(stays.ask("GET", "/api/session", "").statusCode()).isEqualTo(200);
        assertThat(coverage("scim-stays").coverUntil()).isEqualTo("2026-01-31");
        ask("DELETE", "/Users/" + id, "", 204);
        assertThat(stays.ask("GET", "/api/session", "").statusCode()).isEqualTo(401);
        ask("DELETE", "/Groups/" + group.path("id").asString(), "", 204);
    }
}
