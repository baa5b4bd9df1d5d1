package jandrel.service.kernel;

import java.util.List;
import java.util.stream.Collectors;
import org.apache.catalina.util.NetMask;
import org.apache.catalina.valves.RemoteIpValve;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.tomcat.servlet.TomcatServletWebServerFactory;
import org.springframework.boot.web.server.WebServerFactoryCustomizer;
import org.springframework.stereotype.Component;

/**
 * From whom a request comes, where proxies that were named pass it on. What anybody else says in {@code X-Forwarded-For} counts for
 * nothing, and of what a proxy says only the last address that is no proxy's. Where the console is found is
 * {@link Settings#publicUrl} alone, whatever a request says.
 */
@Component
class Proxies implements WebServerFactoryCustomizer<TomcatServletWebServerFactory> {
    private static final int BITS_OF_IPV4 = 32;
    private static final int BITS_OF_IPV6 = 128;
    private final List<String> named;

    Proxies(Settings settings) {
        named = settings.proxies().stream()
                .map(String::strip)
                .filter(p -> !p.isEmpty())
                .toList();
    }

    @Override
    public void customize(TomcatServletWebServerFactory server) {
        if (named.isEmpty()) {
            return;
        }
        RemoteIpValve valve = new RemoteIpValve();
        valve.setInternalProxies(named.stream().map(Proxies::network).collect(Collectors.joining(",")));
        valve.setTrustedProxies(null);
        valve.setProtocolHeader(null);
        server.addEngineValves(valve);
    }

    /** @throws IllegalArgumentException for what is neither an address nor a network */
    private static String network(String proxy) {
        String network =
                proxy.contains("/") ? proxy : proxy + "/" + (proxy.contains(":") ? BITS_OF_IPV6 : BITS_OF_IPV4);
        // a name would be asked of a name server, which others may answer for
        if (!network.matches("[0-9a-fA-F:.]+/[0-9]{1,3}")) {
            throw wrong(proxy, null);
        }
        try {
            return new NetMask(network).toString();
        } catch (IllegalArgumentException e) {
            throw wrong(proxy, e);
        }
    }

    private static IllegalArgumentException wrong(String proxy, @Nullable Exception cause) {
        return new IllegalArgumentException(
                "jandrel.proxies has “" + proxy + "”; give addresses or networks, such as 10.1.0.7 or 10.1.0.0/24",
                cause);
    }
}
