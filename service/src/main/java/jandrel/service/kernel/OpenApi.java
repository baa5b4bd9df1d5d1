package jandrel.service.kernel;

import io.swagger.v3.core.converter.ModelConverters;
import io.swagger.v3.oas.models.OpenAPI;
import io.swagger.v3.oas.models.info.Info;
import io.swagger.v3.oas.models.media.Content;
import io.swagger.v3.oas.models.media.MediaType;
import io.swagger.v3.oas.models.media.Schema;
import io.swagger.v3.oas.models.responses.ApiResponse;
import jandrel.api.ActivityApi;
import jandrel.api.ConnectionApi;
import jandrel.api.DecisionApi;
import jandrel.api.DirectoryApi;
import jandrel.api.ExclusionApi;
import jandrel.api.JournalApi;
import jandrel.api.PolicyApi;
import jandrel.api.Problem;
import jandrel.api.RecordApi;
import jandrel.api.SessionApi;
import jandrel.api.TriageApi;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** The OpenAPI document, with the records' own word on what may be missing. */
@Configuration(proxyBeanMethods = false)
class OpenApi {
    private static final List<Class<?>> HOLDERS = List.of(
            ActivityApi.class,
            ConnectionApi.class,
            DecisionApi.class,
            DirectoryApi.class,
            ExclusionApi.class,
            jandrel.api.ExportApi.class,
            JournalApi.class,
            jandrel.api.ContactApi.class,
            jandrel.api.MeasureApi.class,
            jandrel.api.MeetingApi.class,
            jandrel.api.NoticeApi.class,
            jandrel.api.OutboxApi.class,
            PolicyApi.class,
            jandrel.api.ReaderApi.class,
            jandrel.api.RehearsalApi.class,
            RecordApi.class,
            SessionApi.class,
            jandrel.api.SingleSignOnApi.class,
            TriageApi.class);

    @Bean
    OpenAPI document() {
        return new OpenAPI().info(new Info().title("Jandrel").version("1"));
    }

    @Bean
    OpenApiCustomizer nullness() {
        Map<String, Class<?>> records = new HashMap<>(Map.of("Problem", Problem.class));
        HOLDERS.forEach(h -> List.of(h.getDeclaredClasses()).forEach(c -> records.put(c.getSimpleName(), c)));
        return api -> {
            api.setServers(null);
            ModelConverters.getInstance(true).readAll(Problem.class).forEach(api.getComponents()::addSchemas);
            api.getPaths().values().stream()
                    .flatMap(path -> path.readOperations().stream())
                    .forEach(o -> o.getResponses().addApiResponse("default", refused()));
            api.getComponents().getSchemas().forEach((name, schema) -> {
                Class<?> record = records.get(name);
                if (record != null) {
                    describe(record, schema);
                }
            });
        };
    }

    private static ApiResponse refused() {
        Schema<?> problem = new Schema<>().$ref("#/components/schemas/Problem");
        return new ApiResponse()
                .description("A refusal (RFC 9457)")
                .content(new Content().addMediaType("application/problem+json", new MediaType().schema(problem)));
    }

    private static void describe(Class<?> record, Schema<?> schema) {
        List<String> required = new ArrayList<>();
        for (RecordComponent component : record.getRecordComponents()) {
            if (!component.getAnnotatedType().isAnnotationPresent(Nullable.class)) {
                required.add(component.getName());
                continue;
            }
            Schema<?> property = schema.getProperties().get(component.getName());
            if (property != null && property.getTypes() != null) {
                Set<String> types = new TreeSet<>(property.getTypes());
                types.add("null");
                property.setTypes(types);
            }
        }
        schema.setRequired(required);
    }
}
