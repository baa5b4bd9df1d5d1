package jandrel.acceptance;

import static jandrel.acceptance.Harbour.soon;
import static org.assertj.core.api.Assertions.assertThat;

import jandrel.demo.ServiceProcess;
import jandrel.demo.Stand;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** The database goes away while the service runs. */
@Tag("alone")
class NoDatabaseTest {
    private static final HttpClient HTTP = HttpClient.newHttpClient();
    private static Wire wire;
    private static Running service;

    @BeforeAll
    static void open() throws Exception {
        wire = new Wire(Stand.fromEnvironment().port("POSTGRES"));
        service = new Running(
                "no_database",
                Map.of("JANDREL_DATABASE_URL", "jdbc:postgresql://127.0.0.1:" + wire.port() + "/no_database"));
    }

    @AfterAll
    static void close() throws Exception {
        service.close();
        wire.close();
    }

    private static HttpResponse<String> get(String path, String token) throws Exception {
        return HTTP.send(
                HttpRequest.newBuilder(URI.create(service.url() + path))
                        .header("Authorization", "Bearer " + token)
                        .build(),
                HttpResponse.BodyHandlers.ofString());
    }

    private static String token() throws Exception {
        HttpResponse<String> given = HTTP.send(
                HttpRequest.newBuilder(URI.create(service.url() + "/api/tokens"))
                        .header("Content-Type", "application/json")
                        .POST(HttpRequest.BodyPublishers.ofString(
                                "{\"login\":\"admin\",\"password\":\"" + ServiceProcess.ADMIN_PASSWORD + "\"}"))
                        .build(),
                HttpResponse.BodyHandlers.ofString());
        return given.body().replaceFirst(".*\"token\":\"([^\"]+)\".*", "$1");
    }

    @ParameterizedTest
    @EnumSource(names = {"REFUSES", "HANGS"})
    void everyCallSaysSoSoonAndAllIsWellAgainAfterwards(Wire.Mode mode) throws Exception {
        String token = token();
        assertThat(get("/api/connections", token).statusCode()).isEqualTo(200);
        wire.is(mode);
        for (String path : new String[] {"/api/connections", "/api/session", "/api/records?name=x", "/scim/v2/Users"}) {
            long began = System.nanoTime();
            HttpResponse<String> answer = get(path, token);
            assertThat(Duration.ofNanos(System.nanoTime() - began)).as(path).isLessThan(Duration.ofSeconds(6));
            assertThat(answer.statusCode()).as(path).isEqualTo(503);
            assertThat(answer.headers().firstValue("Retry-After")).as(path).hasValue("5");
            assertThat(answer.headers().firstValue("Content-Type").orElse("")).startsWith("application/problem+json");
            assertThat(answer.body()).contains("The database cannot be reached");
        }
        assertThat(get("/api/ops/health", token).statusCode()).isEqualTo(503);
        wire.is(Wire.Mode.PASSES);
        soon().until(() -> get("/api/connections", token).statusCode() == 200);
        assertThat(get("/api/ops/health", token).statusCode()).isEqualTo(200);
    }

    @Test
    void itEndsWhenItIsToldTo() throws Exception {
        wire.is(Wire.Mode.REFUSES);
        Thread.sleep(2_000);
        long began = System.nanoTime();
        service.service.stop();
        assertThat(Duration.ofNanos(System.nanoTime() - began)).isLessThan(Duration.ofSeconds(15));
        wire.is(Wire.Mode.PASSES);
        service.service.start();
    }
}
