package jandrel.service.directory;

import jandrel.api.DirectoryApi.FieldInfo;
import jandrel.api.DirectoryApi.FieldList;
import jandrel.api.DirectoryApi.LineProblem;
import jandrel.core.directory.DirectoryFile;
import jandrel.core.directory.OwnField;
import jandrel.core.policy.BookCondition.Field;
import jandrel.service.kernel.Refusal;
import jandrel.service.people.SignedIn;
import jandrel.store.directory.OwnFieldList;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The fields of contacts that the company made for itself. */
@RestController
class OwnFieldCalls {
    private static final int MOST = 50;
    private static final int MOST_CHOICES = 100;
    private static final int LONGEST = 80;
    /** What means something else where fields are named: in files, in tables, in conditions. */
    private static final Set<String> TAKEN = Stream.of(
                    Arrays.stream(DirectoryFile.values())
                            .flatMap(f -> f.columns().stream())
                            .flatMap(c -> Stream.of(c.name(), c.name() + "_name")),
                    Arrays.stream(Field.values()).map(Field::word),
                    Stream.of("id", "kind", "archived", "made_by", "changed_at"))
            .flatMap(s -> s)
            .collect(Collectors.toUnmodifiableSet());

    private final OwnFieldList fields;

    OwnFieldCalls(OwnFieldList fields) {
        this.fields = fields;
    }

    @GetMapping("/api/fields")
    FieldList all() {
        Map<String, Long> used = fields.used();
        return new FieldList(fields.fields().all().stream()
                .map(f ->
                        new FieldInfo(f.key(), f.name(), f.kind().word(), f.choices(), used.getOrDefault(f.key(), 0L)))
                .toList());
    }

    /** The list as it shall be; what was in a field that is not on it is kept, and comes back with it. */
    @PutMapping("/api/fields")
    FieldList change(@RequestBody FieldList wanted, @AuthenticationPrincipal SignedIn me) {
        List<LineProblem> problems = new ArrayList<>();
        List<OwnField> list = new ArrayList<>();
        Set<String> keys = new HashSet<>();
        Set<String> names = new HashSet<>();
        List<FieldInfo> given = wanted.fields();
        // what a program sends may have nothing where something should be
        if (given.size() > MOST || given.stream().anyMatch(Objects::isNull)) {
            throw Refusal.bad("Nothing was changed", "Give up to " + MOST + " fields, each with a key and a name.");
        }
        for (int i = 0; i < given.size(); i++) {
            OwnField field = field(given.get(i), i + 1, problems);
            if (!keys.add(field.key())) {
                problems.add(new LineProblem(i + 1, "key", "“" + field.key() + "” is there twice"));
            }
            if (!names.add(field.name().toLowerCase(Locale.ROOT))) {
                problems.add(new LineProblem(i + 1, "name", "“" + field.name() + "” is there twice"));
            }
            list.add(field);
        }
        stopAt(problems);
        try {
            fields.change(list, me.login());
        } catch (OwnFieldList.DoesNotFit misfit) {
            misfit.reasons().forEach((at, m) -> problems.add(new LineProblem(at + 1L, m.of(), m.why())));
            stopAt(problems);
        }
        return all();
    }

    private static void stopAt(List<LineProblem> problems) {
        if (!problems.isEmpty()) {
            LineProblem first = problems.get(0);
            throw Refusal.misfit(
                    "Nothing was changed: field " + first.line() + ": " + first.reason(),
                    "Mend those below.",
                    problems);
        }
    }

    private static OwnField field(FieldInfo given, int place, List<LineProblem> problems) {
        String key = text(given.key());
        String name = text(given.name());
        if (!OwnField.isKey(key)) {
            problems.add(new LineProblem(
                    place, "key", "a key has 1 to 40 small letters, digits and underscores, a letter first"));
        } else if (TAKEN.contains(key)) {
            problems.add(new LineProblem(place, "key", "“" + key + "” means something else already"));
        }
        if (name.isEmpty() || name.length() > LONGEST) {
            problems.add(new LineProblem(place, "name", "a name has 1 to " + LONGEST + " characters"));
        }
        OwnField.Kind kind = Arrays.stream(OwnField.Kind.values())
                .filter(k -> k.word().equals(given.kind()))
                .findFirst()
                .orElse(null);
        if (kind == null) {
            problems.add(new LineProblem(place, "kind", "“" + given.kind() + "” is not text, number, date or choice"));
            kind = OwnField.Kind.TEXT;
        }
        return new OwnField(key, name, kind, choices(given, kind, place, problems));
    }

    private static List<String> choices(FieldInfo given, OwnField.Kind kind, int place, List<LineProblem> problems) {
        @Nullable List<String> said = given.choices();
        if (kind != OwnField.Kind.CHOICE || said == null) {
            if (kind == OwnField.Kind.CHOICE) {
                problems.add(new LineProblem(place, "choices", "a choice has at least one"));
            }
            return List.of();
        }
        List<String> choices = said.stream()
                .filter(Objects::nonNull)
                .map(OwnFieldCalls::text)
                .filter(c -> !c.isEmpty())
                .toList();
        long different =
                choices.stream().map(c -> c.toLowerCase(Locale.ROOT)).distinct().count();
        if (choices.isEmpty() || choices.size() > MOST_CHOICES) {
            problems.add(new LineProblem(place, "choices", "a choice has 1 to " + MOST_CHOICES));
        } else if (different < choices.size()) {
            problems.add(new LineProblem(place, "choices", "one of them is there twice"));
        } else if (choices.stream().anyMatch(c -> c.length() > LONGEST)) {
            problems.add(new LineProblem(place, "choices", "each has at most " + LONGEST + " characters"));
        }
        return choices;
    }

    private static String text(@Nullable String given) {
        return given == null ? "" : given.replaceAll("[\\s\\p{Cntrl}]+", " ").strip();
    }
}
