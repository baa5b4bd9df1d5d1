package jandrel.acceptance;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** The console's types come from the document that the service gives today. */
@ExtendWith(Harbour.Shared.class)
class OpenApiTest {
    private static final JsonMapper JSON = JsonMapper.builder().build();

    @Test
    void theConsolesDocumentIsTheServices(Harbour h) throws Exception {
        ObjectNode served = (ObjectNode)
                JSON.readTree(h.admin.ask("GET", "/api/openapi.json", "").body());
        served.remove("servers");
        Path kept = Path.of("../console/openapi.json");
        JsonNode known = JSON.readTree(Files.readString(kept));
        Files.writeString(
                Path.of("target/openapi.json"),
                JSON.writerWithDefaultPrettyPrinter().writeValueAsString(served) + "\n");
        assertThat(served)
                .as("copy acceptance/target/openapi.json to console/openapi.json and build again")
                .isEqualTo(known);
        assertThat(served.get("openapi").asString()).startsWith("3.1");
    }
}
