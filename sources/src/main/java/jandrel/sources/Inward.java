package jandrel.sources;

import java.net.Inet6Address;
import java.net.InetAddress;
import java.net.UnknownHostException;
import java.util.Collection;
import java.util.Locale;

/**
 * Keeps the service from being used to reach into the company's own network: addresses that are not public (RFC 6890) are refused
 * unless an administrator allowed that host. Asked before each use, since a name can lead elsewhere tomorrow.
 */
public final class Inward {
    /** What is said of a host that is not allowed. */
    public static final String WHY =
            "this host leads into the company’s own network; an administrator can allow it under Servers";

    private final Collection<String> allowed;

    /** @param allowed names and addresses that may be reached wherever they lead */
    public Inward(Collection<String> allowed) {
        this.allowed = allowed.stream().map(h -> h.toLowerCase(Locale.ROOT)).toList();
    }

    /** @throws SourceTrouble if there is no such host, or it leads inward and is not allowed */
    public void check(String host) {
        if (allowed.contains(host.toLowerCase(Locale.ROOT))) {
            return;
        }
        for (InetAddress address : addresses(host)) {
            if (isInward(address)) {
                throw new SourceTrouble(SourceTrouble.Kind.REFUSED, WHY);
            }
        }
    }

    static InetAddress[] addresses(String host) {
        try {
            return InetAddress.getAllByName(host);
        } catch (UnknownHostException none) {
            throw new SourceTrouble(
                    SourceTrouble.Kind.UNREACHABLE, "there is no host of this name; check its spelling", none);
        }
    }

    /** Loopback, private, shared, link-local, unique-local, multicast, unspecified, benchmarking or reserved. */
    static boolean isInward(InetAddress address) {
        if (address.isLoopbackAddress()
                || address.isSiteLocalAddress()
                || address.isLinkLocalAddress()
                || address.isAnyLocalAddress()
                || address.isMulticastAddress()) {
            return true;
        }
        byte[] b = address.getAddress();
        if (address instanceof Inet6Address) {
            return isInward6(b);
        }
        return isInward4(b[0] & 0xff, b[1] & 0xff, b[2] & 0xff);
    }

    private static boolean isInward4(int a, int b, int c) {
        return a == 0
                || (a == 100 && b >= 64 && b < 128)
                || (a == 192 && b == 0 && c == 0)
                || (a == 198 && (b == 18 || b == 19))
                || a >= 240;
    }

    /** Unique-local, and the forms that carry an IPv4 address inside: mapped, NAT64, 6to4. */
    private static boolean isInward6(byte[] b) {
        if ((b[0] & 0xfe) == 0xfc) {
            return true;
        }
        boolean nat64 = b[0] == 0 && (b[1] & 0xff) == 0x64 && (b[2] & 0xff) == 0xff && (b[3] & 0xff) == 0x9b;
        boolean sixToFour = b[0] == 0x20 && b[1] == 0x02;
        int at = nat64 ? 12 : 2;
        if (!nat64 && !sixToFour) {
            return false;
        }
        try {
            return isInward(InetAddress.getByAddress(new byte[] {b[at], b[at + 1], b[at + 2], b[at + 3]}));
        } catch (UnknownHostException impossible) {
            throw new IllegalStateException(impossible);
        }
    }
}
