package jandrel.service.connections;

import jandrel.api.ConnectionApi.ActOutcome;
import jandrel.api.ConnectionApi.ManyConnections;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.connections.Connections.Connection;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.UUID;
import java.util.function.BiConsumer;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Does one thing to many connections: each for itself, so that one that does not fit keeps no other from it. */
@RestController
class ManyConnectionsCalls {
    private static final int MOST = 2_000;
    private final Connecting connecting;
    private final ServiceMail mail;
    private final Map<String, BiConsumer<Connection, SignedIn>> acts;

    ManyConnectionsCalls(Connecting connecting, ServiceMail mail) {
        this.connecting = connecting;
        this.mail = mail;
        acts = Map.of(
                "sync",
                (c, me) -> connecting.syncNow(c),
                "pause",
                connecting::pause,
                "resume",
                connecting::resume,
                "remind",
                (c, me) -> mail.remind(c, me.login()));
    }

    @PostMapping("/api/connections/acts")
    List<ActOutcome> act(@RequestBody ManyConnections wanted, @AuthenticationPrincipal SignedIn me) {
        BiConsumer<Connection, SignedIn> act = acts.get(wanted.act());
        if (act == null) {
            throw Refusal.bad("There is no “" + wanted.act() + "”", "It is sync, pause, resume or remind.");
        }
        if (wanted.act().equals("remind")) {
            mail.needsMail();
        }
        if (wanted.connections().size() > MOST) {
            throw Refusal.bad("Too many at once", "At most " + MOST + " connections.");
        }
        List<ActOutcome> outcomes = new ArrayList<>();
        for (UUID id : wanted.connections()) {
            String account = "";
            try {
                Connection connection = connecting.mayChange(id, me);
                account = connection.account();
                act.accept(connection, me);
                outcomes.add(new ActOutcome(id, account, ""));
            } catch (Refusal refused) {
                outcomes.add(new ActOutcome(id, account, Objects.requireNonNullElse(refused.getMessage(), "refused")));
            }
        }
        return outcomes;
    }
}
