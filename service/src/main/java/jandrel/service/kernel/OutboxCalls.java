package jandrel.service.kernel;

import jandrel.api.OutboxApi.OutboxKind;
import jandrel.store.kernel.Outbox;
import jandrel.store.kernel.Outbox.Kind;
import jandrel.store.kernel.Outbox.Waiting;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** How much waits to go out, and since when. */
@RestController
class OutboxCalls {
    private final Outbox outbox;

    OutboxCalls(Outbox outbox) {
        this.outbox = outbox;
    }

    /** One line for each kind, whether anything of it waits or not. */
    @GetMapping("/api/outbox")
    List<OutboxKind> outbox() {
        Map<Kind, Waiting> waiting =
                outbox.waiting().stream().collect(Collectors.toMap(Waiting::kind, Function.identity()));
        return Arrays.stream(Kind.values())
                .map(kind -> shown(kind, waiting.get(kind)))
                .toList();
    }

    private static OutboxKind shown(Kind kind, @org.jspecify.annotations.Nullable Waiting w) {
        String name = kind.name().toLowerCase(Locale.ROOT);
        return w == null ? new OutboxKind(name, 0, 0, null) : new OutboxKind(name, w.count(), w.failing(), w.oldest());
    }
}
