package jandrel.service.meetings;

import jandrel.core.visibility.Role;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.people.People;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;

/** Whose something is that somebody makes or sends out. */
final class Owners {
    private Owners() {}

    /** @param wanted the asker's own person if it is null */
    static People.Person of(People people, @Nullable UUID wanted, SignedIn me) {
        UUID person = wanted == null ? me.person() : wanted;
        if (person == null) {
            throw Refusal.bad("It is nobody’s", "Say whose it is: your sign-in is no person’s of the company.");
        }
        if (!person.equals(me.person()) && me.role() != Role.ADMINISTRATOR) {
            throw Refusal.of(
                    HttpStatus.FORBIDDEN,
                    "Only administrators make something for others",
                    "Make it for yourself, or ask one.");
        }
        return people.one(person).orElseThrow(() -> Refusal.notFound("person"));
    }
}
