package jandrel.client;

import jandrel.api.ContactApi.ContactCard;
import jandrel.api.ContactApi.ContactChange;
import jandrel.api.ContactApi.ContactMore;
import jandrel.api.ContactApi.ContactName;
import jandrel.api.ContactApi.OfKind;
import jandrel.api.ContactApi.PostalAddress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What is known of a contact besides the directory's columns. */
@Command(
        name = "details",
        description =
                "What is known of a contact besides the directory's columns; says it, or changes it. What is changed goes out "
                        + "to the address books that the contact stands in.")
final class ContactDetailCommand extends Ask {
    @Parameters(index = "0", paramLabel = "CONTACT", description = "Its name, or its id.")
    private String contact = "";

    @Option(
            names = "--first-names",
            paramLabel = "TEXT",
            description = "Of the name; \"\" for none, as with all of these.")
    private @Nullable String given;

    @Option(names = "--last-name", paramLabel = "TEXT", description = "By which address books sort.")
    private @Nullable String family;

    @Option(names = "--unit", paramLabel = "TEXT", description = "Of the company; a smaller one after a semicolon.")
    private @Nullable String unit;

    @Option(names = "--role", paramLabel = "TEXT", description = "What they do there.")
    private @Nullable String role;

    @Option(names = "--birthday", paramLabel = "DAY", description = "Such as 1980-04-02, or --04-02 without a year.")
    private @Nullable String birthday;

    @Option(names = "--note", paramLabel = "TEXT", description = "In your words.")
    private @Nullable String note;

    @Option(names = "--tag", paramLabel = "TEXT", description = "All of them, each with this option.")
    private @Nullable List<String> tags;

    @Option(names = "--web", paramLabel = "URL", description = "All web addresses, each with this option.")
    private @Nullable List<String> webs;

    @Option(
            names = "--place",
            paramLabel = "STREET;CODE;TOWN;REGION;COUNTRY",
            description = "All postal addresses, each with this option.")
    private @Nullable List<String> places;

    @Option(
            names = "--kind",
            paramLabel = "WHAT=KIND",
            description =
                    "Of an address, a number, a web address, or the street of a postal address: work, home, cell or fax.")
    private Map<String, String> kinds = Map.of();

    @Override
    public Integer call() {
        String record = "/api/records/" + recordId(main().http(), contact);
        ContactCard card = main().http().get(record + "/address-books", Map.of(), ContactCard.class);
        ContactMore seen = card.details();
        if (seen == null) {
            throw new Trouble(Trouble.NO, "“" + contact + "” is no contact");
        }
        ContactMore wanted = wanted(seen);
        boolean changes = !wanted.equals(seen);
        if (changes) {
            card = main().http()
                    .send("PUT", record + "/details", new ContactChange(seen, wanted, List.of()), ContactCard.class);
        }
        if (out().json()) {
            out().objects(List.of(card));
            return 0;
        }
        if (changes) {
            out().say("Changed.");
        }
        show(card, Objects.requireNonNull(card.details()));
        return 0;
    }

    private static String or(@Nullable String said, String was) {
        return said == null ? was : said;
    }

    private ContactMore wanted(ContactMore seen) {
        ContactName n = seen.name();
        List<OfKind> urls = webs == null
                ? seen.urls()
                : said(webs).map(w -> new OfKind(w, "")).toList();
        List<PostalAddress> at = places == null
                ? seen.places()
                : said(places).map(ContactDetailCommand::place).toList();
        ContactMore more = new ContactMore(
                new ContactName(or(family, n.family()), or(given, n.given()), n.additional(), n.prefix(), n.suffix()),
                or(unit, seen.unit()),
                or(role, seen.role()),
                kinded(seen.mails()),
                kinded(seen.phones()),
                at.stream()
                        .map(p -> new PostalAddress(
                                p.street(),
                                p.town(),
                                p.region(),
                                p.code(),
                                p.country(),
                                kinds.getOrDefault(p.street(), p.kind())))
                        .toList(),
                kinded(urls),
                or(birthday, seen.birthday()),
                or(note, seen.note()),
                tags == null ? seen.tags() : said(tags).toList());
        kinds.keySet().stream()
                .filter(k -> Stream.of(more.mails(), more.phones(), more.urls())
                                .flatMap(List::stream)
                                .noneMatch(m -> m.value().equals(k))
                        && more.places().stream().noneMatch(p -> p.street().equals(k)))
                .findFirst()
                .ifPresent(k -> {
                    throw new Trouble(
                            Trouble.USE, "“" + k + "” of --kind is none of this contact’s addresses or numbers");
                });
        return more;
    }

    private static Stream<String> said(List<String> values) {
        return values.stream().filter(v -> !v.isBlank());
    }

    private List<OfKind> kinded(List<OfKind> all) {
        return all.stream()
                .map(m -> new OfKind(m.value(), kinds.getOrDefault(m.value(), m.kind())))
                .toList();
    }

    private static PostalAddress place(String text) {
        List<String> parts = new ArrayList<>(
                Arrays.stream(text.split(";", -1)).map(String::strip).toList());
        if (parts.size() > 5) {
            throw new Trouble(
                    Trouble.USE,
                    "“" + text + "” has more than street, code, town, region and country between semicolons");
        }
        while (parts.size() < 5) {
            parts.add("");
        }
        return new PostalAddress(parts.get(0), parts.get(2), parts.get(3), parts.get(1), parts.get(4), "");
    }

    private void show(ContactCard card, ContactMore more) {
        Table table = new Table("what", "it is");
        ContactName n = more.name();
        row(table, "first names", joined(" ", n.prefix(), n.given(), n.additional()));
        row(table, "last name", joined(", ", n.family(), n.suffix()));
        more.mails().forEach(m -> row(table, "address", ofKind(m)));
        more.phones().forEach(m -> row(table, "number", ofKind(m)));
        card.facts().forEach(f -> row(table, f.field(), f.words().replace("\n", " / ")));
        out().table(table);
        out().say("");
        out().say(
                        card.books().isEmpty()
                                ? "In no address book."
                                : "In address books: "
                                        + card.books().stream()
                                                .map(b -> b.personName() + ", " + b.label() + " (" + b.state() + ")")
                                                .collect(Collectors.joining("; "))
                                        + ".");
    }

    private static String joined(String between, String... parts) {
        return Arrays.stream(parts).filter(p -> !p.isEmpty()).collect(Collectors.joining(between));
    }

    private static String ofKind(OfKind member) {
        return member.value() + (member.kind().isEmpty() ? "" : " (" + member.kind() + ")");
    }

    private static void row(Table table, String what, String is) {
        if (!is.isBlank()) {
            table.row(what, is);
        }
    }
}
