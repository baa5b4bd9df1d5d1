package jandrel.formats.card;

import jandrel.core.contacts.ContactDetails;
import jandrel.core.contacts.ContactDetails.NameParts;
import jandrel.core.contacts.ContactField;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** The lines of one card that a change touches. */
final class CardEdits {
    /** A property of our own, by which a write is known again whose answer was lost. */
    static final String MARK = "X-JANDREL-WRITE";

    private static final DateTimeFormatter STAMP =
            DateTimeFormatter.ofPattern("yyyyMMdd'T'HHmmss'Z'").withZone(ZoneOffset.UTC);

    /** Of what stands beside a property in a group of its own: it goes with the last one that it is said of. */
    private static final Set<String> LABELS = Set.of("X-ABLABEL", "X-ABADR");

    private final Said said;
    private final List<CardLine> lines;
    private final Charset charset;
    private final boolean old;

    /** What a single line says. */
    interface Said {
        ContactDetails of(CardLine line) throws UnreadableCard;
    }

    /** @param old whether it is of version 2.1, which has no escapes for line ends and no lists of values */
    CardEdits(Said said, List<CardLine> lines, Charset charset, boolean old) {
        this.said = said;
        this.lines = lines;
        this.charset = charset;
        this.old = old;
    }

    void all(ContactDetails before, ContactDetails after, Instant stamp, String mark) throws UnreadableCard {
        boolean changed = false;
        for (ContactField field : ContactField.values()) {
            if (!field.of(before).equals(field.of(after))) {
                one(field, before, after);
                changed = true;
            }
        }
        boolean named = lines.stream()
                .anyMatch(l -> l.name().equals("FN") && !l.value(charset).isEmpty());
        if (changed && !named && !after.name().isEmpty()) {
            // what only stood in for a name would become another one
            put("FN", escaped(after.name()));
        }
        if (changed) {
            single("REV", STAMP.format(stamp));
            single(MARK, mark);
        }
    }

    private void one(ContactField field, ContactDetails before, ContactDetails after) throws UnreadableCard {
        switch (field) {
            // there has to be one (RFC 6350 §6.2.1)
            case NAME -> put("FN", escaped(after.name()));
            case PARTS -> put("N", parts(after.parts()));
            case ORGANISATION, UNIT -> single("ORG", organisation(after));
            case TITLE -> single("TITLE", escaped(after.title()));
            case ROLE -> single("ROLE", escaped(after.role()));
            case BIRTHDAY -> single("BDAY", after.birthday());
            case NOTE -> single("NOTE", escaped(after.note()));
            case MAILS -> members("EMAIL", before, after, ContactDetails::mails, this::escaped);
            case PHONES -> members("TEL", before, after, ContactDetails::phones, this::escaped);
            case URLS -> members("URL", before, after, ContactDetails::urls, v -> v);
            case PLACES -> members("ADR", before, after, ContactDetails::places, this::address);
            case CATEGORIES -> categories(before.categories(), after.categories());
        }
    }

    private static String joined(List<String> parts) {
        return String.join(";", parts);
    }

    private String parts(NameParts p) {
        return joined(Stream.of(p.family(), p.given(), p.additional(), p.prefix(), p.suffix())
                .map(this::escaped)
                .toList());
    }

    private String organisation(ContactDetails after) {
        List<String> company = new ArrayList<>(List.of(after.organisation()));
        if (!after.unit().isEmpty()) {
            company.addAll(List.of(after.unit().split(";", -1)));
        }
        String value = joined(company.stream().map(this::escaped).toList());
        return value.equals(";") ? "" : value;
    }

    private String address(String place) {
        List<String> p = new ArrayList<>(List.of(place.split(";", -1)));
        p.addAll(0, List.of("", ""));
        return joined(p.stream().map(this::escaped).toList());
    }

    /** RFC 6350 §3.4; version 2.1 has other ways for line ends, and no lists that a comma would part. */
    private String escaped(String value) {
        String some = value.replace("\\", "\\\\").replace(";", "\\;");
        return old ? some : some.replace("\n", "\\n").replace(",", "\\,");
    }

    /** The first of its name gets the value, further ones go; without a value all of them. */
    private void single(String name, String value) {
        if (value.isEmpty()) {
            List.copyOf(lines).stream().filter(l -> l.name().equals(name)).forEach(this::remove);
            return;
        }
        put(name, value);
        lines.stream().filter(l -> l.name().equals(name)).skip(1).toList().forEach(this::remove);
    }

    private void put(String name, String value) {
        for (int i = 0; i < lines.size(); i++) {
            if (lines.get(i).name().equals(name)) {
                lines.set(i, line(plain(lines.get(i).head()), value));
                return;
            }
        }
        add(name, value);
    }

    /** Before the end. */
    private void add(String head, String value) {
        int end = lines.size() - 1;
        while (!lines.get(end).name().equals("END")) {
            end--;
        }
        lines.add(end, line(head, value));
    }

    private CardLine line(String head, String value) {
        Charset fits = charset.newEncoder().canEncode(head + value) ? charset : StandardCharsets.UTF_8;
        boolean ascii = value.chars().allMatch(c -> c < 127 && (c >= ' ' || c == '\t'));
        if (!old || ascii) {
            return CardLine.of(head, value, fits);
        }
        return CardLine.encoded(
                head + ";CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE", value.replace("\n", "\r\n"), StandardCharsets.UTF_8);
    }

    /** A head without what says how the value before was put into letters. */
    private static String plain(String head) {
        return parameters(head)
                .filter(p -> {
                    String word = p.toUpperCase(Locale.ROOT).strip();
                    return !word.startsWith("ENCODING=")
                            && !word.startsWith("CHARSET=")
                            && !word.equals("QUOTED-PRINTABLE")
                            && !word.equals("BASE64")
                            && !word.startsWith("VALUE=");
                })
                .collect(Collectors.joining(";"));
    }

    /** The name first; semicolons within quotes part nothing. */
    private static Stream<String> parameters(String head) {
        List<String> parts = new ArrayList<>();
        boolean quoted = false;
        int from = 0;
        for (int i = 0; i < head.length(); i++) {
            quoted ^= head.charAt(i) == '"';
            if (head.charAt(i) == ';' && !quoted) {
                parts.add(head.substring(from, i));
                from = i + 1;
            }
        }
        parts.add(head.substring(from));
        return parts.stream();
    }

    private void remove(CardLine line) {
        lines.remove(line);
        String group = line.group();
        boolean stays = lines.stream().anyMatch(l -> l.group().equals(group) && !LABELS.contains(l.name()));
        if (!group.isEmpty() && !stays) {
            lines.removeIf(l -> l.group().equals(group) && LABELS.contains(l.name()));
        }
    }

    private void members(
            String name,
            ContactDetails before,
            ContactDetails after,
            Function<ContactDetails, SortedMap<String, String>> of,
            Function<String, String> written)
            throws UnreadableCard {
        Map<String, String> wanted = of.apply(after);
        for (CardLine line : List.copyOf(lines)) {
            if (!line.name().equals(name)) {
                continue;
            }
            Map<String, String> stands = of.apply(said.of(line));
            for (String member : stands.keySet()) {
                String kind = wanted.get(member);
                if (kind == null) {
                    remove(line);
                } else if (!kind.equals(of.apply(before).get(member))) {
                    lines.set(lines.indexOf(line), rekinded(line, kind));
                }
            }
        }
        for (Map.Entry<String, String> member : wanted.entrySet()) {
            if (!of.apply(before).containsKey(member.getKey())) {
                add(name + type(member.getValue()), written.apply(member.getKey()));
            }
        }
    }

    private String type(String kind) {
        return kind.isEmpty() ? "" : (old ? ";" : ";TYPE=") + kind.toUpperCase(Locale.ROOT);
    }

    private static boolean isKind(String word) {
        return CardReader.KINDS.contains(word.strip().toLowerCase(Locale.ROOT));
    }

    /** The same value, as something else. */
    private CardLine rekinded(CardLine line, String kind) {
        List<String> kept = new ArrayList<>();
        parameters(line.head()).forEach(parameter -> {
            String word = parameter.toUpperCase(Locale.ROOT).strip();
            if (isKind(word)) {
                return;
            }
            if (!word.startsWith("TYPE=")) {
                kept.add(parameter);
                return;
            }
            String types = Stream.of(
                            parameter.strip().substring(5).replace("\"", "").split(",", -1))
                    .filter(t -> !isKind(t))
                    .collect(Collectors.joining(","));
            if (!types.isEmpty()) {
                kept.add("TYPE=" + types);
            }
        });
        return line.headed(String.join(";", kept) + type(kind), charset);
    }

    /** Taken off wherever they stand; what is new comes to the first of their lines. */
    private void categories(SortedSet<String> before, SortedSet<String> after) throws UnreadableCard {
        TreeSet<String> missing = new TreeSet<>(after);
        missing.removeAll(before);
        boolean placed = missing.isEmpty();
        for (CardLine line : List.copyOf(lines)) {
            if (!line.name().equals("CATEGORIES")) {
                continue;
            }
            SortedSet<String> stands = said.of(line).categories();
            TreeSet<String> stays = new TreeSet<>(stands);
            stays.retainAll(after);
            if (!placed) {
                stays.addAll(missing);
                placed = true;
            }
            if (stays.isEmpty()) {
                remove(line);
            } else if (!stays.equals(stands)) {
                lines.set(lines.indexOf(line), line(plain(line.head()), listed(stays)));
            }
        }
        if (!placed) {
            add("CATEGORIES", listed(missing));
        }
    }

    private String listed(SortedSet<String> values) {
        return values.stream()
                .map(v -> v.replace("\\", "\\\\").replace(";", "\\;").replace(",", "\\,"))
                .collect(Collectors.joining(","));
    }
}
