package jandrel.api;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A refusal (RFC 9457, application/problem+json).
 *
 * @param title what is wrong, in a few words
 * @param detail what to do about it
 * @param problems each line of a file that does not fit
 */
public record Problem(
        @Nullable String type,
        @Nullable String title,
        int status,
        @Nullable String detail,
        @Nullable List<DirectoryApi.LineProblem> problems) {}
