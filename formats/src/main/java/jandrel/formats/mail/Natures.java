package jandrel.formats.mail;

import jandrel.core.item.Nature;
import jandrel.core.item.Nature.Kind;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;

/** Tells from its header whether a person wrote a message (RFC 3834, 2369, 2919, 3464, 8098). */
final class Natures {
    private static final Set<String> BULK = Set.of("bulk", "junk", "list");
    private static final Set<String> SUBMITTED = Set.of("auto-generated", "auto-replied", "auto-notified");

    private Natures() {}

    static Nature of(Headers headers) {
        return bounce(headers)
                .or(() -> automatic(headers))
                .or(() -> bulk(headers))
                .or(() -> list(headers))
                .orElse(Nature.ORDINARY);
    }

    private static Optional<Nature> bounce(Headers headers) {
        if (headers.token("content-type").equals("multipart/report")
                && headers.parameter("content-type", "report-type").equalsIgnoreCase("delivery-status")) {
            return evidence(Kind.BOUNCE, "Content-Type", "multipart/report; report-type=delivery-status");
        }
        String from = headers.first("from").toLowerCase(Locale.ROOT);
        boolean byMailSystem = from.contains("mailer-daemon@") || from.contains("postmaster@");
        if (byMailSystem && headers.first("return-path").replace(" ", "").equals("<>")) {
            return evidence(Kind.BOUNCE, "Return-Path", "<>");
        }
        // a report whose sort is not said, or which lost its Return-Path on the way
        boolean report = headers.token("content-type").equals("multipart/report");
        boolean failed = headers.has("x-failed-recipients");
        return byMailSystem && (report || failed)
                ? failed
                        ? evidence(Kind.BOUNCE, "X-Failed-Recipients")
                        : evidence(Kind.BOUNCE, "Content-Type", "multipart/report")
                : Optional.empty();
    }

    private static Optional<Nature> automatic(Headers headers) {
        String submitted = headers.token("auto-submitted");
        if (!submitted.isEmpty() && !submitted.equals("no")) {
            Kind kind = submitted.equals("auto-replied") ? Kind.AUTO_REPLY : Kind.AUTOMATIC;
            return SUBMITTED.contains(submitted)
                    ? evidence(kind, "Auto-Submitted", submitted)
                    : evidence(kind, "Auto-Submitted");
        }
        if (headers.token("content-type").equals("multipart/report")) {
            return evidence(Kind.AUTOMATIC, "Content-Type", "multipart/report");
        }
        if (headers.token("precedence").equals("auto_reply")) {
            return evidence(Kind.AUTO_REPLY, "Precedence", "auto_reply");
        }
        return Stream.of("x-autoreply", "x-autorespond", "x-autoresponder")
                .filter(headers::has)
                .filter(name -> !headers.token(name).equals("no"))
                .findFirst()
                .flatMap(name -> evidence(Kind.AUTO_REPLY, titled(name)));
    }

    private static Optional<Nature> bulk(Headers headers) {
        String precedence = headers.token("precedence");
        boolean discussion =
                headers.has("list-post") && !headers.token("list-post").startsWith("no");
        if (BULK.contains(precedence) && !discussion) {
            return evidence(Kind.BULK, "Precedence", precedence);
        }
        return headers.has("list-unsubscribe") && !discussion
                ? evidence(Kind.BULK, "List-Unsubscribe")
                : Optional.empty();
    }

    private static Optional<Nature> list(Headers headers) {
        if (headers.has("list-id")) {
            return evidence(Kind.LIST, "List-Id");
        }
        return headers.has("list-post") ? evidence(Kind.LIST, "List-Post") : Optional.empty();
    }

    /** @param value one of a few that a standard knows: what a header says is the item's, and a trail tells nothing of that */
    private static Optional<Nature> evidence(Kind kind, String name, String value) {
        return Optional.of(new Nature(kind, name + ": " + value));
    }

    private static Optional<Nature> evidence(Kind kind, String name) {
        return Optional.of(new Nature(kind, name));
    }

    private static String titled(String name) {
        return name.startsWith("x-") ? "X-" + name.substring(2, 3).toUpperCase(Locale.ROOT) + name.substring(3) : name;
    }
}
