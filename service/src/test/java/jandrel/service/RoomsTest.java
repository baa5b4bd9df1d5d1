package jandrel.service;

import static com.tngtech.archunit.base.DescribedPredicate.describe;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.library.dependencies.SliceAssignment;
import com.tngtech.archunit.library.dependencies.SliceIdentifier;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Which subject may know which, in the store and in the service: the table of subjects in docs/architecture.md. */
class RoomsTest {
    private static final JavaClasses ALL =
            new ClassFileImporter().withImportOption(new NoTests()).importPackages("jandrel.store", "jandrel.service");
    private static final Pattern ROOM = Pattern.compile("jandrel\\.(?:store|service)\\.(\\w+)");

    /** In order: a subject knows itself, what it names, and what those know. */
    private static final Map<String, Set<String>> MAY_KNOW = new LinkedHashMap<>();

    static {
        MAY_KNOW.put("kernel", Set.of());
        MAY_KNOW.put("journal", Set.of("kernel"));
        MAY_KNOW.put("people", Set.of("journal"));
        MAY_KNOW.put("connections", Set.of("people"));
        MAY_KNOW.put("directory", Set.of("people"));
        MAY_KNOW.put("policy", Set.of("directory", "connections"));
        MAY_KNOW.put("capture", Set.of("policy"));
        MAY_KNOW.put("timeline", Set.of("capture"));
        MAY_KNOW.put("triage", Set.of("timeline"));
        MAY_KNOW.put("meetings", Set.of("timeline"));
        MAY_KNOW.put("contacts", Set.of("capture"));
        MAY_KNOW.put("measures", Set.of("timeline"));
        MAY_KNOW.put("rehearsal", Set.of("triage"));
        MAY_KNOW.put("notices", Set.of("triage", "meetings"));
        MAY_KNOW.put("retention", Set.of("triage", "meetings", "contacts", "rehearsal", "measures"));
    }

    static List<String> subjects() {
        return List.copyOf(MAY_KNOW.keySet());
    }

    @ParameterizedTest
    @MethodSource("subjects")
    void aSubjectKnowsWhatTheTableSays(String subject) {
        Set<String> known = known(subject);
        noClasses()
                .that(describe("are of " + subject, c -> room(c).equals(Optional.of(subject))))
                .should()
                .dependOnClassesThat(describe(
                        "are of none of " + known,
                        c -> room(c).filter(r -> !known.contains(r)).isPresent()))
                .allowEmptyShould(false)
                .check(ALL);
    }

    @Test
    void everyClassStandsInARoomButThoseThatWireAndStart() {
        List<String> outside = new ArrayList<>();
        for (JavaClass c : ALL) {
            if (room(c).filter(MAY_KNOW::containsKey).isEmpty()) {
                outside.add(c.getName().replaceAll("\\$.*", ""));
            }
        }
        assertThat(Set.copyOf(outside))
                .containsExactlyInAnyOrder(
                        "jandrel.store.StoreConfiguration",
                        "jandrel.service.JandrelService",
                        "jandrel.store.package-info",
                        "jandrel.service.package-info");
    }

    @Test
    void theTableHasNoCircle() {
        Map<String, Integer> place = new HashMap<>();
        MAY_KNOW.keySet().forEach(s -> place.put(s, place.size()));
        MAY_KNOW.forEach((subject, known) ->
                assertThat(known).allSatisfy(k -> assertThat(place.get(k)).isLessThan(place.get(subject))));
    }

    /** But for sealed families, which name their members. */
    @Test
    void noFilesKnowEachOtherInACircle() {
        JavaClasses all =
                new ClassFileImporter().withImportOption(new NoTests()).importPackages("jandrel");
        slices().assignedFrom(new SliceAssignment() {
                    @Override
                    public SliceIdentifier getIdentifierOf(JavaClass c) {
                        return SliceIdentifier.of(c.getName().replaceAll("\\$.*", ""));
                    }

                    @Override
                    public String getDescription() {
                        return "files";
                    }
                })
                .should()
                .beFreeOfCycles()
                .ignoreDependency(
                        describe("are sealed families", c -> c.getName().equals("jandrel.core.item.Item")),
                        describe("anything", c -> true))
                .check(all);
    }

    private static Optional<String> room(JavaClass c) {
        Matcher m = ROOM.matcher(c.getPackageName());
        return m.matches() ? Optional.of(m.group(1)) : Optional.empty();
    }

    private static Set<String> known(String subject) {
        Set<String> known = new TreeSet<>(Set.of(subject));
        MAY_KNOW.getOrDefault(subject, Set.of()).forEach(k -> known.addAll(known(k)));
        return known;
    }
}
