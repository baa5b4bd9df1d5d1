package jandrel.acceptance;

import jandrel.demo.Service;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What an export says, line by line. */
final class ExportedLines {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private ExportedLines() {}

    /** @param query with its question mark; empty for none */
    static List<JsonNode> all(Service asker, String what, String query) throws Exception {
        return asker.ask("GET", "/api/export/" + what + ".ndjson" + query, "")
                .body()
                .lines()
                .map(JSON::readTree)
                .toList();
    }

    static List<JsonNode> of(List<JsonNode> lines, String type) {
        return lines.stream()
                .filter(l -> l.path("type").asString("").equals(type))
                .toList();
    }

    static String cursor(List<JsonNode> lines) {
        return of(lines, "begin").get(0).path("cursor").asString("");
    }
}
