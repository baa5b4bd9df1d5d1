package jandrel.service.connections;

import com.nimbusds.oauth2.sdk.http.HTTPResponse;
import com.nimbusds.oauth2.sdk.http.ReadOnlyHTTPRequest;
import jandrel.service.people.ProviderHttp;
import jandrel.sources.BoundedHttp;
import jandrel.sources.Patience;
import jandrel.sources.Trust;
import java.io.IOException;
import java.time.Duration;
import java.util.Objects;
import org.springframework.stereotype.Component;

/** Requests to authorisation servers and providers, each address asked about before it is used: their own metadata name them. */
@Component
class ProviderEgress implements ProviderHttp {
    private static final Patience PATIENCE = Patience.of(Duration.ofSeconds(10));
    private final EgressPolicy reach;

    ProviderEgress(EgressPolicy reach) {
        this.reach = reach;
    }

    @Override
    public HTTPResponse send(ReadOnlyHTTPRequest request) throws IOException {
        return send(request, reach.trust());
    }

    HTTPResponse send(ReadOnlyHTTPRequest request, Trust trust) throws IOException {
        reach.check(request.getURI());
        BoundedHttp.Answer answer = new BoundedHttp(trust, PATIENCE)
                .send(
                        request.getMethod().name(),
                        request.getURI(),
                        request.getHeaderMap(),
                        Objects.requireNonNullElse(request.getBody(), ""));
        HTTPResponse response = new HTTPResponse(answer.status());
        answer.headers().forEach((name, values) -> response.setHeader(name, values.toArray(String[]::new)));
        response.setBody(answer.body());
        return response;
    }
}
