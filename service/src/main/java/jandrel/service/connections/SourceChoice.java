package jandrel.service.connections;

import jandrel.api.ConnectionApi.ChosenSources;
import jandrel.core.item.Keywords;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.connections.Connections;
import jandrel.store.connections.Connections.Connection;
import jandrel.store.connections.Connections.Source;
import jandrel.store.connections.SourceSettings;
import jandrel.store.journal.Journal;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Which folders and calendars of a connection are read, and what for. */
@Component
public class SourceChoice {
    private final Connections connections;
    private final SourceSettings choosing;
    private final Journal journal;

    SourceChoice(Connections connections, SourceSettings choosing, Journal journal) {
        this.connections = connections;
        this.choosing = choosing;
        this.journal = journal;
    }

    @Transactional
    void choose(Connection connection, ChosenSources wanted, SignedIn me) {
        Map<String, Object> before = chosen(connection);
        List<Integer> known =
                connections.sources(connection.id()).stream().map(Source::id).toList();
        for (List<Integer> ids : Arrays.asList(wanted.chosen(), wanted.counting())) {
            if (ids != null && !known.containsAll(ids)) {
                throw Refusal.bad(
                        "Some of these are no sources of this connection", "Give ids that the connection lists.");
            }
        }
        if (wanted.chosen() != null) {
            choosing.chosen(connection.id(), wanted.chosen());
        }
        if (wanted.counting() != null) {
            choosing.counting(connection.id(), wanted.counting());
        }
        if (wanted.outgoing() != null) {
            outgoing(connection, wanted.outgoing());
        }
        String count = keyword(wanted.countKeyword(), connection.countKeyword());
        String keepOut = keyword(wanted.keepOutKeyword(), connection.keepOutKeyword());
        if (!count.isEmpty() && count.equalsIgnoreCase(keepOut)) {
            throw Refusal.bad("One keyword cannot do both", "Give two that differ, or leave one of them empty.");
        }
        if (!count.equals(connection.countKeyword()) || !keepOut.equals(connection.keepOutKeyword())) {
            choosing.keywords(connection.id(), count, keepOut);
        }
        journal.add(
                me.login(),
                "chose the sources of",
                Connecting.thing(connection),
                before,
                chosen(connections.connection(connection.id()).orElseThrow()));
    }

    private void outgoing(Connection connection, int wanted) {
        boolean writable = connections.sources(connection.id()).stream()
                .anyMatch(s -> s.id() == wanted && !s.kind().equals("folder"));
        if (!writable) {
            throw Refusal.bad(
                    "This is no calendar or address book of this connection", "Give the id of one that it lists.");
        }
        connections.notOutgoing(connection.id());
        connections.outgoing(wanted);
    }

    private static String keyword(@Nullable String wanted, String now) {
        if (wanted == null) {
            return now;
        }
        String keyword = wanted.strip();
        if (!keyword.isEmpty() && !Keywords.fits(keyword)) {
            throw Refusal.bad("“" + keyword + "” is no keyword", "It does not fit: " + Keywords.RULE);
        }
        return keyword;
    }

    private Map<String, Object> chosen(Connection connection) {
        List<Source> sources = connections.sources(connection.id());
        return Map.of(
                "chosen", labels(sources, Source::chosen),
                "counting", labels(sources, Source::counts),
                "outgoing", labels(sources, Source::outgoing),
                "countKeyword", connection.countKeyword(),
                "keepOutKeyword", connection.keepOutKeyword());
    }

    private static List<String> labels(List<Source> sources, Predicate<Source> which) {
        return sources.stream().filter(which).map(Source::label).sorted().toList();
    }
}
