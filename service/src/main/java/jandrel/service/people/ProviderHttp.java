package jandrel.service.people;

import com.nimbusds.oauth2.sdk.http.HTTPResponse;
import com.nimbusds.oauth2.sdk.http.ReadOnlyHTTPRequest;
import java.io.IOException;

/** Asks a provider, no further than the service may go; answers are bounded in size and time. */
public interface ProviderHttp {
    /**
     * @throws IOException when nothing answers
     * @throws jandrel.sources.SourceTrouble when the address may not be reached
     */
    HTTPResponse send(ReadOnlyHTTPRequest request) throws IOException;
}
