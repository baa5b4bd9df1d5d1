package jandrel.service.people;

import jandrel.api.DirectoryApi.PersonInfo;
import jandrel.store.people.People;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
class PeopleCalls {
    private final People people;

    PeopleCalls(People people) {
        this.people = people;
    }

    @GetMapping("/api/people")
    List<PersonInfo> all() {
        return people.all().stream()
                .map(p -> new PersonInfo(p.id(), p.key(), p.name(), p.team(), p.role(), List.of(p.addresses())))
                .toList();
    }
}
