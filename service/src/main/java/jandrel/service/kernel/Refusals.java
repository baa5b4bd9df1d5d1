package jandrel.service.kernel;

import jandrel.store.kernel.StaleVersion;
import java.util.UUID;
import java.util.stream.Collectors;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.HttpStatusCode;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.http.ResponseEntity;
import org.springframework.http.converter.HttpMessageNotReadableException;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.context.request.WebRequest;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;
import tools.jackson.core.JacksonException;

/** Every refusal as a problem (RFC 9457). */
@RestControllerAdvice
class Refusals extends ResponseEntityExceptionHandler {
    private static final Logger LOG = LoggerFactory.getLogger(Refusals.class);

    @ExceptionHandler
    ProblemDetail refusal(Refusal refusal) {
        ProblemDetail problem =
                Refusal.problem(refusal.status(), String.valueOf(refusal.getMessage()), refusal.detail());
        if (!refusal.problems().isEmpty()) {
            problem.setProperty("problems", refusal.problems());
        }
        return problem;
    }

    @ExceptionHandler
    ProblemDetail stale(StaleVersion stale) {
        return Refusal.problem(
                HttpStatus.CONFLICT,
                "Somebody else changed this in the meantime",
                "Load it again, look at what they changed, then make your change.");
    }

    @ExceptionHandler
    ProblemDetail mistyped(MethodArgumentTypeMismatchException mistyped) {
        return Refusal.problem(
                HttpStatus.BAD_REQUEST,
                "The value of “" + mistyped.getName() + "” is not of the kind that is wanted",
                "An id is a UUID, a time is like 2026-03-31T08:00:00Z, a number has digits only.");
    }

    @ExceptionHandler
    ProblemDetail tooLarge(JsonBodies.TooLarge large) {
        return Refusal.problem(
                HttpStatus.CONTENT_TOO_LARGE,
                "The request is too large",
                "This call accepts at most " + large.kilobytes() + " KB.");
    }

    @Override
    protected ResponseEntity<Object> handleHttpMessageNotReadable(
            HttpMessageNotReadableException unreadable,
            HttpHeaders headers,
            HttpStatusCode status,
            WebRequest request) {
        ProblemDetail problem = unreadable(unreadable);
        return ResponseEntity.status(problem.getStatus())
                .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                .body(problem);
    }

    /** @return the size, or the field that is not as it must be, by its path */
    private ProblemDetail unreadable(HttpMessageNotReadableException unreadable) {
        for (Throwable cause = unreadable; cause != null; cause = cause.getCause()) {
            if (cause instanceof JsonBodies.TooLarge large) {
                return tooLarge(large);
            }
            if (cause instanceof Refusal refusal) {
                return refusal(refusal);
            }
        }
        for (Throwable cause = unreadable; cause != null; cause = cause.getCause()) {
            if (cause instanceof JacksonException json && !json.getPath().isEmpty()) {
                String path = json.getPath().stream()
                        .map(at -> at.getPropertyName() == null ? "[" + at.getIndex() + "]" : at.getPropertyName())
                        .collect(Collectors.joining("."));
                return Refusal.problem(
                        HttpStatus.BAD_REQUEST,
                        "The value of “" + path + "” is missing or has the wrong type",
                        "See /api/openapi.json for what this call accepts.");
            }
        }
        return Refusal.problem(
                HttpStatus.BAD_REQUEST,
                "The request is not valid JSON",
                "See /api/openapi.json for what this call accepts.");
    }

    @ExceptionHandler
    ProblemDetail denied(AccessDeniedException denied) {
        return Refusal.problem(HttpStatus.FORBIDDEN, "Your role does not allow this", "Ask an administrator.");
    }

    @ExceptionHandler
    ResponseEntity<ProblemDetail> failed(Exception failed) {
        if (DatabaseAway.isIn(failed)) {
            LOG.warn("a request was refused: the database cannot be reached");
            return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
                    .header(HttpHeaders.RETRY_AFTER, DatabaseAway.RETRY_SECONDS)
                    .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                    .body(DatabaseAway.problem());
        }
        ProblemDetail problem = DatabaseAway.isTooLong(failed) ? tooLong(failed) : unexpected(failed);
        return ResponseEntity.status(problem.getStatus())
                .contentType(MediaType.APPLICATION_PROBLEM_JSON)
                .body(problem);
    }

    private static ProblemDetail tooLong(Exception failed) {
        LOG.warn(
                "a request was given up: the database took too long for it ({})",
                failed.getClass().getName());
        return Refusal.problem(
                HttpStatus.SERVICE_UNAVAILABLE,
                "This takes too long",
                "Ask for less, such as fewer days or one person, or try again when less is going on.");
    }

    private static ProblemDetail unexpected(Exception unexpected) {
        String id = UUID.randomUUID().toString().substring(0, 8);
        LOG.error("request failed, id {}", id, unexpected);
        return Refusal.problem(
                HttpStatus.INTERNAL_SERVER_ERROR,
                "Something went wrong here",
                "Try again. If it stays, give the administrator this id, which stands in the service's log: " + id);
    }
}
