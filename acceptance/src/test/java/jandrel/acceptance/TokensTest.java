package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import jandrel.api.SessionApi.NewSignIn;
import jandrel.api.SessionApi.NewToken;
import jandrel.api.SessionApi.SessionInfo;
import jandrel.api.SessionApi.SignInInfo;
import jandrel.api.SessionApi.Token;
import jandrel.demo.Service;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Tokens are for what they were made for, and programs have nothing else. */
@ExtendWith(Harbour.Shared.class)
class TokensTest {
    private final Harbour h;

    TokensTest(Harbour harbour) {
        h = harbour;
    }

    /** What a token of an administrator may do that was made for one thing. */
    @ParameterizedTest
    @CsvSource({
        "read, GET, /api/records, 200",
        "read, GET, /api/session, 200",
        "read, POST, /api/policies, 403",
        "read, GET, /api/sign-ins, 403",
        "read, GET, /api/%73ign-ins, 403",
        "read, GET, /api/session/tokens, 403",
        "read, GET, /api/export/everything, 403",
        "read, GET, /scim/v2/Users, 403",
        "read, GET, /api/summary, 200",
        "measures, GET, /api/summary, 200",
        "measures, GET, /api/records, 403",
        "measures, GET, /api/measures/to-win, 200",
        "measures, GET, /api/measures/to-win/rows?column=won, 403",
        "measures, GET, /api/measures/to-win/ro%77s?column=won, 403",
        "measures, GET, /api/measures/to-win/rows.csv?column=won, 403",
        "measures, GET, /api/measures/to-win/figures.xlsx, 200",
        "measures, GET, /api/export/records.ndjson, 403",
        "read, GET, /api/measures/to-win/rows?column=won, 200",
        "capture, PUT, /api/stages, 403",
        "policy, PUT, /api/stages, 400",
        "scim, GET, /scim/v2/Users, 200",
        "scim, GET, /api/records, 403",
        "directory, POST, /api/directory/accounts, 415",
        "directory, POST, /api/exclusions, 403",
        "directory, GET, /api/records, 403",
        "policy, POST, /api/exclusions, 400",
        "policy, PUT, /api/session/password, 403",
        "policy, POST, /api/sign-ins, 403",
        "capture, POST, /api/servers, 400",
        "capture, POST, /api/session/tokens, 403",
        "capture, POST, /api/directory/accounts, 403",
    })
    void aTokenForOneThingDoesNothingElse(String scope, String method, String path, int status) throws Exception {
        Token token = h.admin.post("/api/session/tokens", new NewToken("for " + scope, 1, List.of(scope)), Token.class);
        Object body = method.equals("GET") ? "" : Map.of();
        assertThat(Calls.call(h.process.url(), token.token(), method, path, body)
                        .statusCode())
                .isEqualTo(status);
        for (SessionInfo one : h.admin.get("/api/session/tokens", SessionInfo[].class)) {
            if (one.kind().equals("made")) {
                h.admin.delete("/api/session/tokens/" + one.id());
            }
        }
        assertThat(new Service(h.process.url())
                        .as(token.token())
                        .ask("GET", "/api/session", "")
                        .statusCode())
                .as("ended")
                .isEqualTo(401);
    }

    @Test
    void aProgramHasTokensAloneAndNobodyMakesAPersonsToken() throws Exception {
        SignInInfo program = h.admin.post(
                "/api/sign-ins",
                new NewSignIn("directory-sync", "Directory sync", null, "administrator", null, true),
                SignInInfo.class);
        assertThat(program.state()).isEqualTo("program");
        String tokens = "/api/sign-ins/" + program.id() + "/tokens";
        Token token = h.admin.post(tokens, new NewToken("people", 90, List.of("scim")), Token.class);
        Service sync = new Service(h.process.url()).as(token.token());
        assertThat(sync.ask("GET", "/scim/v2/Users", "").statusCode()).isEqualTo(200);
        assertThat(sync.ask("GET", "/api/people", "").body()).contains("may be used for scim");
        h.person("si-own", "rep");
        UUID own = Arrays.stream(h.admin.get("/api/sign-ins", SignInInfo[].class))
                .filter(s -> s.login().equals("si-own"))
                .findFirst()
                .orElseThrow()
                .id();
        assertThat(Calls.call(
                                h.process.url(),
                                h.admin.token(),
                                "POST",
                                "/api/sign-ins/" + own + "/tokens",
                                new NewToken("x", 1, List.of("read")))
                        .statusCode())
                .isEqualTo(409);
        for (NewToken bad : List.of(
                new NewToken("", 1, List.of("read")),
                new NewToken("x", 0, List.of("read")),
                new NewToken("x", 400, List.of("read")),
                new NewToken("x", 1, List.of()),
                new NewToken("x", 1, List.of("everything")))) {
            assertThat(Calls.call(h.process.url(), h.admin.token(), "POST", tokens, bad)
                            .statusCode())
                    .as("%s", bad)
                    .isEqualTo(400);
        }
        assertThat(h.admin
                        .ask("POST", "/api/sign-ins/" + program.id() + "/end", "")
                        .statusCode())
                .isEqualTo(204);
        assertThat(sync.ask("GET", "/scim/v2/Users", "").statusCode()).isEqualTo(401);
    }
}
