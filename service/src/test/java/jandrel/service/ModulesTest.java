package jandrel.service;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Who may know whom: the table of modules in docs/architecture.md. */
class ModulesTest {
    private static final JavaClasses ALL =
            new ClassFileImporter().withImportOption(new NoTests()).importPackages("jandrel");

    @Test
    void theCoreKnowsTheJdkAndSmallValueLibrariesAlone() {
        classes()
                .that()
                .resideInAPackage("jandrel.core..")
                .should()
                .onlyDependOnClassesThat()
                .resideInAnyPackage(
                        "jandrel.core..",
                        "java.lang..",
                        "java.util..",
                        "java.time..",
                        "java.text..",
                        "java.math..",
                        "java.net",
                        "java.security",
                        "java.nio.charset",
                        "com.google.common.net..",
                        "org.jspecify..")
                .check(ALL);
    }

    @Test
    void theCoreHasNoClockAndNoFilesOfItsOwn() {
        noClasses()
                .that()
                .resideInAPackage("jandrel.core..")
                .should()
                .callMethod(java.time.Instant.class, "now")
                .orShould()
                .callMethod(java.time.LocalDate.class, "now")
                .orShould()
                .callMethod(System.class, "currentTimeMillis")
                .orShould()
                .dependOnClassesThat()
                .resideInAnyPackage("java.io..", "java.nio.file..", "java.sql..")
                .check(ALL);
    }

    @Test
    void formatsKnowTheCore() {
        noClasses()
                .that()
                .resideInAPackage("jandrel.formats..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "jandrel.sources..",
                        "jandrel.store..",
                        "jandrel.service..",
                        "jandrel.api..",
                        "org.springframework..")
                .check(ALL);
    }

    @Test
    void sourcesKnowCoreAndFormats() {
        noClasses()
                .that()
                .resideInAPackage("jandrel.sources..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("jandrel.store..", "jandrel.service..", "jandrel.api..", "org.springframework..")
                .check(ALL);
    }

    @Test
    void theStoreKnowsTheCoreAlone() {
        noClasses()
                .that()
                .resideInAPackage("jandrel.store..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("jandrel.formats..", "jandrel.sources..", "jandrel.service..", "jandrel.api..")
                .check(ALL);
    }

    @Test
    void theApiKnowsNobody() {
        classes()
                .that()
                .resideInAPackage("jandrel.api..")
                .should()
                .onlyDependOnClassesThat()
                .resideInAnyPackage("jandrel.api..", "java..", "org.jspecify..")
                .check(ALL);
    }

    @Test
    void nobodyUsesTheOlderJackson() {
        noClasses()
                .that()
                .resideInAPackage("jandrel..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("com.fasterxml.jackson.databind..", "com.fasterxml.jackson.core..")
                .check(ALL);
    }

    @Test
    void whatTheServiceDoesForUsersIsKeptApart() {
        slices().matching("jandrel.service.(*)..").should().beFreeOfCycles().check(ALL);
        slices().matching("jandrel.core.(*)..").should().beFreeOfCycles().check(ALL);
    }

    @Test
    void nobodyPrintsOrSwallowsTheStandardStreams() {
        noClasses()
                .that()
                .resideInAnyPackage(
                        "jandrel.service..",
                        "jandrel.store..",
                        "jandrel.sources..",
                        "jandrel.formats..",
                        "jandrel.core..")
                .should()
                .accessField(System.class, "out")
                .orShould()
                .accessField(System.class, "err")
                .check(ALL);
    }

    @Test
    void noClassNameIsThereTwice() throws IOException {
        List<Path> modules;
        try (Stream<Path> all = Files.list(Path.of(".."))) {
            modules = all.map(module -> module.resolve("src"))
                    .filter(Files::isDirectory)
                    .toList();
        }
        Map<String, Integer> times = new TreeMap<>();
        for (Path module : modules) {
            try (Stream<Path> files = Files.walk(module)) {
                files.map(file -> file.getFileName().toString())
                        .filter(name -> name.endsWith(".java") && !name.equals("package-info.java"))
                        .forEach(name -> times.merge(name, 1, Integer::sum));
            }
        }
        assertThat(times).hasSizeGreaterThan(400);
        assertThat(times).allSatisfy((name, n) -> assertThat(n).as(name).isOne());
    }
}
