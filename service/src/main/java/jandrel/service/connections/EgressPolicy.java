package jandrel.service.connections;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jandrel.service.kernel.Settings;
import jandrel.sources.Inward;
import jandrel.sources.SourceTrouble;
import jandrel.sources.Trust;
import jandrel.store.connections.Connections;
import java.net.URI;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Where the service may go, and whose certificates it believes there. */
@Component
class EgressPolicy {
    private static final int MOST_AUTHORITIES = 100;
    private final Connections connections;
    private final Settings settings;
    private final Trust trust;
    private final Cache<String, Trust> byAuthority =
            Caffeine.newBuilder().maximumSize(MOST_AUTHORITIES).build();

    EgressPolicy(Connections connections, Settings settings) {
        this.connections = connections;
        this.settings = settings;
        String own = settings.trustedCertificates();
        this.trust = Trust.with(own.isEmpty() ? null : Path.of(own));
    }

    /** What an administrator allows may change at any time, so it is asked anew. */
    Inward inward() {
        List<String> allowed = new ArrayList<>(settings.allowedHosts());
        connections.allowed().forEach(a -> allowed.add(a.host()));
        return new Inward(allowed);
    }

    /** @throws SourceTrouble if it is not https, there is no such host, or it leads inward and is not allowed */
    void check(URI address) {
        inward().check(overTls(address).getHost());
    }

    /** @throws SourceTrouble if it is not https */
    static URI overTls(@Nullable URI address) {
        if (address == null || !"https".equalsIgnoreCase(address.getScheme()) || address.getHost() == null) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.REFUSED, "the authorisation server names an address that is not https");
        }
        return address;
    }

    Trust trust() {
        return trust;
    }

    /**
     * One for each authority, as connections to servers are kept with it.
     *
     * @param authority whom besides is believed, in PEM form; may be empty
     */
    Trust trust(String authority) {
        return authority.isEmpty() ? trust : byAuthority.get(authority, trust::andIfAny);
    }
}
