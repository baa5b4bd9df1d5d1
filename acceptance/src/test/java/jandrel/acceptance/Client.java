package jandrel.acceptance;

import jandrel.api.SessionApi.Credentials;
import jandrel.api.SessionApi.Token;
import jandrel.demo.Providers;
import jandrel.demo.Service;
import jandrel.demo.ServiceProcess;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.json.JsonMapper;

/** The command-line client as people run it. */
record Client(String url, String token) {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** The administrator's. */
    static Client of(Harbour h) throws Exception {
        return of(h, "admin", ServiceProcess.ADMIN_PASSWORD);
    }

    /** Of somebody whom the tests made up. */
    static Client as(Harbour h, String login) throws Exception {
        return of(h, login, Providers.PASSWORD);
    }

    private static Client of(Harbour h, String login, String password) throws Exception {
        Token token = new Service(h.process.url())
                .post("/api/tokens", new Credentials(login, password, "test", null), Token.class);
        return new Client(h.process.url(), token.token());
    }

    /** @return what it printed, on both ways out */
    String run(String... words) throws Exception {
        return program("../bin/jandrel", words);
    }

    private String program(String program, String... words) throws Exception {
        List<String> command = new ArrayList<>(List.of(program));
        command.addAll(List.of(words));
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
        builder.environment().put("JANDREL_URL", url);
        builder.environment().put("JANDREL_TOKEN", token);
        builder.environment().put("JANDREL_SECRET", Providers.PASSWORD);
        builder.environment().put("TZ", "UTC");
        Process process = builder.start();
        process.getOutputStream().close();
        String said = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        process.waitFor();
        return said;
    }

    /** Verifies an exported journal, without any service. */
    static String check(Path journal) throws Exception {
        return new Client("", "").program("../bin/jandrel-check", journal.toString());
    }

    static String json(Object value) {
        return JSON.writeValueAsString(value);
    }
}
