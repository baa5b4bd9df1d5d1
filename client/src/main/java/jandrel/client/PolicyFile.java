package jandrel.client;

import jandrel.api.PolicyApi.PoliciesFile;
import jandrel.api.RehearsalApi.FileOutcome;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.dataformat.yaml.YAMLMapper;
import tools.jackson.dataformat.yaml.YAMLWriteFeature;

/** Policies as a file of our own form; docs/policies.schema.json describes it. */
final class PolicyFile {
    private PolicyFile() {}

    private static YAMLMapper yaml() {
        return YAMLMapper.builder()
                .disable(YAMLWriteFeature.WRITE_DOC_START_MARKER)
                .enable(YAMLWriteFeature.MINIMIZE_QUOTES)
                .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
                .enable(DeserializationFeature.FAIL_ON_MISSING_CREATOR_PROPERTIES)
                .build();
    }

    @Command(name = "export", description = "Writes all policies as a YAML file.")
    static final class Export extends Ask {
        @Option(names = "--file", description = "Where to; standard output if not given.")
        private Path file = Path.of("-");

        @Override
        public Integer call() {
            String text = "# Policies in their order: the first that has a person counts. See docs/policies.md.\n"
                    + yaml().writeValueAsString(main().http().get("/api/policies/file", Map.of(), PoliciesFile.class));
            if (file.toString().equals("-")) {
                out().stream().print(text);
                return 0;
            }
            try {
                Files.writeString(file, text);
            } catch (IOException unwritable) {
                throw new Trouble(Trouble.USE, "the file " + file + " cannot be written");
            }
            out().say("Written to " + file + ".");
            return 0;
        }
    }

    @Command(
            name = "apply",
            description = "Makes the policies what the file says; shows the difference and what it would do first.")
    static final class Apply extends Ask {
        @Parameters(paramLabel = "FILE", description = "As “jandrel policy export” writes it; - for standard input.")
        private Path file = Path.of("-");

        @Option(names = "--yes", description = "Does it; without this it is only shown.")
        private boolean yes;

        @Override
        public Integer call() {
            PoliciesFile wanted = read();
            FileOutcome outcome =
                    main().http().send("POST", "/api/policies/file?apply=" + yes, wanted, FileOutcome.class);
            if (out().json()) {
                out().objects(List.of(outcome));
                return 0;
            }
            if (outcome.differences().isEmpty()) {
                out().say("The policies are what the file says already.");
                return 0;
            }
            outcome.differences().forEach(d -> out().say(d));
            if (yes) {
                out().say("Done.");
                return 0;
            }
            if (outcome.change() != null) {
                out().say("");
                RehearsalCommands.print(
                        out(),
                        java.util.Objects.requireNonNull(RehearsalCommands.run(main().http(), out(), outcome.change())
                                .report()));
            }
            out().say("");
            out().say("Nothing was changed. To do it: jandrel policy apply --yes " + file);
            return 0;
        }

        private PoliciesFile read() {
            String text;
            try {
                text = file.toString().equals("-")
                        ? new String(System.in.readAllBytes(), StandardCharsets.UTF_8)
                        : Files.readString(file);
            } catch (IOException unreadable) {
                throw new Trouble(Trouble.USE, "the file " + file + " cannot be read");
            }
            try {
                return yaml().readValue(text, PoliciesFile.class);
            } catch (JacksonException wrong) {
                int line = wrong.getLocation() == null ? 0 : wrong.getLocation().getLineNr();
                throw new Trouble(
                        Trouble.USE,
                        "nothing was changed: line " + line + " of " + file + ": "
                                + wrong.getOriginalMessage().lines().findFirst().orElse("it is no YAML"));
            }
        }
    }
}
