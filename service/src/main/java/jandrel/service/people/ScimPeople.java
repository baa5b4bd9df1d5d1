package jandrel.service.people;

import jandrel.core.address.EmailAddress;
import jandrel.core.directory.DirectoryRows.PersonRow;
import jandrel.core.directory.ImportRejected;
import jandrel.core.journal.Entry.Thing;
import jandrel.store.journal.Journal;
import jandrel.store.people.CoverPeriod;
import jandrel.store.people.People;
import jandrel.store.people.PeopleImport;
import jandrel.store.people.Teams;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.UUID;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What a directory elsewhere says of our people, taken as if it came in a file; each change with its entry in the journal. */
@Component
class ScimPeople {
    private final PeopleImport imports;
    private final People people;
    private final CoverPeriod cover;
    private final SignInEnding ending;
    private final Teams teams;
    private final Journal journal;
    private final Clock clock;

    /** @param active whether the person is still with us; false ends their cover and every way in; null where nothing was said of it */
    record User(
            String key,
            String name,
            List<EmailAddress> addresses,
            String team,
            String role,
            @Nullable Boolean active) {
        User active(boolean is) {
            return new User(key, name, addresses, team, role, is);
        }

        User named(String other) {
            return new User(key, other, addresses, team, role, active);
        }

        User inRole(String other) {
            return new User(key, name, addresses, team, other, active);
        }

        User at(List<EmailAddress> others) {
            return new User(key, name, others, team, role, active);
        }

        User in(String other) {
            return new User(key, name, addresses, other, role, active);
        }
    }

    /** A team. */
    record Group(UUID id, String name) {}

    ScimPeople(
            PeopleImport imports,
            People people,
            CoverPeriod cover,
            SignInEnding ending,
            Teams teams,
            Journal journal,
            Clock clock) {
        this.imports = imports;
        this.people = people;
        this.cover = cover;
        this.ending = ending;
        this.teams = teams;
        this.journal = journal;
        this.clock = clock;
    }

    private LocalDate today() {
        return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    }

    boolean isActive(People.Person person) {
        return person.coverUntil() == null || person.coverUntil().isAfter(today());
    }

    User user(People.Person p) {
        return new User(
                p.key(),
                p.name(),
                Arrays.stream(p.addresses()).map(EmailAddress::of).toList(),
                p.team(),
                p.role(),
                null);
    }

    @Transactional
    public void put(User user, String by) {
        put(List.of(user), by);
    }

    private void put(List<User> users, String by) {
        if (users.isEmpty()) {
            return;
        }
        List<PersonRow> rows = new ArrayList<>();
        for (User u : users) {
            rows.add(new PersonRow(rows.size() + 1, u.key(), u.name(), u.addresses(), u.team(), u.role()));
        }
        try {
            imports.take(rows);
        } catch (ImportRejected misfit) {
            throw new ScimRefused(
                    HttpStatus.CONFLICT,
                    "uniqueness",
                    misfit.problems().isEmpty()
                            ? "It does not fit the directory."
                            : misfit.problems().get(0).reason());
        }
        Map<String, People.Person> known = people.all().stream().collect(Collectors.toMap(People.Person::key, p -> p));
        List<Journal.Change> told = new ArrayList<>();
        for (User user : users) {
            People.Person person = Objects.requireNonNull(known.get(user.key()));
            told.add(new Journal.Change(
                    "was told of",
                    new Thing("person", person.id().toString(), person.name()),
                    null,
                    Map.of(
                            "team",
                            user.team(),
                            "role",
                            user.role(),
                            "active",
                            user.active() == null ? isActive(person) : user.active())));
            if (Boolean.FALSE.equals(user.active())) {
                ending.left(person.id(), by);
            } else if (Boolean.TRUE.equals(user.active()) && !isActive(person)) {
                cover.end(person.id(), null, by);
            }
        }
        journal.add(by, told);
    }

    /** The teams that people are in, and those that were made without anybody in them. */
    List<Group> groups() {
        Map<String, UUID> all = new TreeMap<>();
        people.all().forEach(p -> {
            if (!p.team().isEmpty()) {
                all.put(p.team(), Teams.id(p.team()));
            }
        });
        teams.made().forEach(name -> all.put(name, Teams.id(name)));
        return all.entrySet().stream()
                .map(e -> new Group(e.getValue(), e.getKey()))
                .toList();
    }

    @Transactional
    public UUID addGroup(String name) {
        teams.make(name);
        return Teams.id(name);
    }

    @Transactional
    public void removeGroup(UUID id) {
        groups().stream().filter(g -> g.id().equals(id)).forEach(g -> teams.unmake(g.name()));
    }

    List<UUID> members(String team) {
        return people.all().stream()
                .filter(p -> p.team().equals(team))
                .map(People.Person::id)
                .toList();
    }

    @Transactional
    public void join(String team, Collection<UUID> who, String by) {
        put(
                people.all().stream()
                        .filter(p -> who.contains(p.id()) && !p.team().equals(team))
                        .map(p -> user(p).in(team))
                        .toList(),
                by);
    }

    @Transactional
    public void leave(String team, Collection<UUID> who, String by) {
        put(
                people.all().stream()
                        .filter(p -> who.contains(p.id()) && p.team().equals(team))
                        .map(p -> user(p).in(""))
                        .toList(),
                by);
    }

    /** Those who stay are not told of twice: nobody is without a team, and so without a policy, for a moment. */
    @Transactional
    public void become(String team, List<UUID> who, String by) {
        List<UUID> gone = members(team).stream().filter(m -> !who.contains(m)).toList();
        leave(team, gone, by);
        join(team, who, by);
    }
}
