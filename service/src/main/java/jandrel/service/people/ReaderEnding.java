package jandrel.service.people;

import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import jandrel.store.people.ReaderLogins;
import jandrel.store.people.ReaderLogins.Reader;
import jandrel.store.people.SignIns;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Ends logins of PostgreSQL: one that somebody ends, and all that read as somebody who has no way in any more. */
@Component
class ReaderEnding {
    private final ReaderLogins readers;
    private final SignIns signIns;
    private final Journal journal;

    ReaderEnding(ReaderLogins readers, SignIns signIns, Journal journal) {
        this.readers = readers;
        this.signIns = signIns;
        this.journal = journal;
    }

    /** With what it is at; from then on it sees nothing, even where PostgreSQL cannot be told. */
    @Transactional
    public void end(Reader reader, String by) {
        readers.remove(reader.login());
        if (readers.isPrepared()) {
            readers.end(reader.login());
        }
        journal.add(by, "ended", thing(reader), written(reader), null);
    }

    /** In the transaction that ends the sign-in. */
    @EventListener
    void ended(SignInEnded ended) {
        signIns.one(ended.signIn())
                .map(SignIns.SignIn::person)
                .ifPresent(person -> readers.all().stream()
                        .filter(r -> person.equals(r.person()))
                        .forEach(r -> end(r, "service")));
    }

    static Thing thing(Reader reader) {
        return new Thing("reader", reader.login(), reader.name());
    }

    static Map<String, Object> written(Reader reader) {
        return Map.of(
                "login",
                reader.login(),
                "role",
                reader.role().toLowerCase(Locale.ROOT),
                "person",
                reader.personName(),
                "teams",
                reader.teams() == null ? List.of() : List.of(reader.teams()));
    }
}
