package jandrel.api;

import java.util.List;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** The directory's files, the people of the company, and its lists of domains. */
public final class DirectoryApi {
    private DirectoryApi() {}

    /** @param reconsidering how many decisions are made again because of the file */
    public record ImportOutcome(String kind, int added, int updated, int unchanged, long reconsidering) {}

    public record PersonInfo(UUID id, String key, String name, String team, String role, List<String> addresses) {}

    /** Bare domain names. */
    public record CompanyDomains(
            List<String> own,
            List<String> freeMail,
            @Nullable List<String> dotless) {
        public CompanyDomains(List<String> own, List<String> freeMail) {
            this(own, freeMail, null);
        }
    }

    /** @param line counted from 1; 0 for the file as a whole */
    public record LineProblem(long line, String column, String reason) {}
}
