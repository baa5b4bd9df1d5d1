package jandrel.service.timeline;

import io.swagger.v3.oas.annotations.Parameter;
import jandrel.core.decide.Link;
import jandrel.service.kernel.Refusal;
import jandrel.store.timeline.DecisionFilter;
import jandrel.store.timeline.TimelineFilter;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What of a timeline a caller wants, as its parameters say it. What is absent does not filter. */
record ActivityQuery(
        @Parameter(description = "mail, meeting, call or follow-up") @Nullable
        String kind,

        @Parameter(description = "in or out: whether one of our people wrote the message") @Nullable
        String direction,

        @Parameter(description = "one of our people: whose it is") @Nullable
        UUID person,

        @Parameter(description = "a part of the name or address of somebody who takes part") @Nullable
        String who,

        @Parameter(description = "true for messages with attachments alone") @Nullable
        Boolean attached,

        @Parameter(description = "what ties it to the record, such as domain or address") @Nullable
        String evidence,

        @Nullable Instant from,

        @Parameter(description = "the first moment after") @Nullable
        Instant until) {
    private static final List<String> KINDS = List.of("", "mail", "meeting", "call", "follow-up");

    TimelineFilter filter() {
        String k = orEmpty(kind);
        if (!KINDS.contains(k)) {
            throw Refusal.bad("There is no kind “" + k + "”", "Kinds are mail, meeting, call and follow-up.");
        }
        String way = orEmpty(direction);
        if (!List.of("", "in", "out").contains(way)) {
            throw Refusal.bad("There is no direction “" + way + "”", "Directions are in and out.");
        }
        String tie = orEmpty(evidence).toUpperCase(Locale.ROOT);
        if (!tie.isEmpty()
                && Arrays.stream(Link.Evidence.values())
                        .noneMatch(known -> known.name().equals(tie))) {
            throw Refusal.bad(
                    "There is no evidence “" + orEmpty(evidence) + "”",
                    Arrays.stream(Link.Evidence.values())
                            .map(known -> known.name().toLowerCase(Locale.ROOT))
                            .collect(Collectors.joining(", ", "It is one of ", ".")));
        }
        boolean mail = k.isEmpty() || k.equals("mail");
        return new TimelineFilter(
                mail ? k : "meeting",
                mail ? "" : k.toUpperCase(Locale.ROOT).replace('-', '_'),
                way,
                person,
                orEmpty(who),
                Boolean.TRUE.equals(attached),
                tie,
                from == null ? DecisionFilter.FIRST : from,
                until == null ? DecisionFilter.LAST : until);
    }

    private static String orEmpty(@Nullable String text) {
        return text == null ? "" : text.strip();
    }
}
