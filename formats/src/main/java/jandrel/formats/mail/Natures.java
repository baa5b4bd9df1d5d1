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
    private static final int LONGEST_EVIDENCE = 80;

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
        return byMailSystem && headers.first("return-path").replace(" ", "").equals("<>")
                ? evidence(Kind.BOUNCE, "Return-Path", "<>")
                : Optional.empty();
    }

    private static Optional<Nature> automatic(Headers headers) {
        String submitted = headers.token("auto-submitted");
        if (!submitted.isEmpty() && !submitted.equals("no")) {
            Kind kind = submitted.equals("auto-replied") ? Kind.AUTO_REPLY : Kind.AUTOMATIC;
            return evidence(kind, "Auto-Submitted", submitted);
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
                .flatMap(name -> evidence(Kind.AUTO_REPLY, titled(name), headers.first(name)));
    }

    private static Optional<Nature> bulk(Headers headers) {
        String precedence = headers.token("precedence");
        boolean discussion =
                headers.has("list-post") && !headers.token("list-post").startsWith("no");
        if (BULK.contains(precedence) && !discussion) {
            return evidence(Kind.BULK, "Precedence", precedence);
        }
        return headers.has("list-unsubscribe") && !discussion
                ? evidence(Kind.BULK, "List-Unsubscribe", "present")
                : Optional.empty();
    }

    private static Optional<Nature> list(Headers headers) {
        if (headers.has("list-id")) {
            return evidence(Kind.LIST, "List-Id", headers.first("list-id"));
        }
        return headers.has("list-post") ? evidence(Kind.LIST, "List-Post", "present") : Optional.empty();
    }

    private static Optional<Nature> evidence(Kind kind, String name, String value) {
        String all = name + ": " + value.replaceAll("\\p{Cntrl}", " ");
        return Optional.of(
                new Nature(kind, all.length() > LONGEST_EVIDENCE ? all.substring(0, LONGEST_EVIDENCE) + "…" : all));
    }

    private static String titled(String name) {
        return name.startsWith("x-") ? "X-" + name.substring(2, 3).toUpperCase(Locale.ROOT) + name.substring(3) : name;
    }
}
