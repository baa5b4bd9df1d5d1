package jandrel.service;

import jandrel.store.StaleVersion;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.web.bind.annotation.ExceptionHandler;
import org.springframework.web.bind.annotation.RestControllerAdvice;
import org.springframework.web.method.annotation.MethodArgumentTypeMismatchException;
import org.springframework.web.servlet.mvc.method.annotation.ResponseEntityExceptionHandler;

/** Every refusal as a problem (RFC 9457). */
@RestControllerAdvice
class Refusals extends ResponseEntityExceptionHandler {
    private static final Logger LOG = LoggerFactory.getLogger(Refusals.class);

    @ExceptionHandler
    ProblemDetail refusal(Refusal refusal) {
        ProblemDetail problem = problem(refusal.status(), String.valueOf(refusal.getMessage()), refusal.detail());
        if (!refusal.problems().isEmpty()) {
            problem.setProperty("problems", refusal.problems());
        }
        return problem;
    }

    @ExceptionHandler
    ProblemDetail stale(StaleVersion stale) {
        return problem(
                HttpStatus.CONFLICT,
                "Somebody else changed this in the meantime",
                "Load it again, look at what they changed, then make your change.");
    }

    @ExceptionHandler
    ProblemDetail mistyped(MethodArgumentTypeMismatchException mistyped) {
        return problem(
                HttpStatus.BAD_REQUEST,
                "The value of “" + mistyped.getName() + "” is not of the kind that is wanted",
                "An id is a UUID, a time is like 2026-03-31T08:00:00Z, a number has digits only.");
    }

    @ExceptionHandler
    ProblemDetail denied(AccessDeniedException denied) {
        return problem(HttpStatus.FORBIDDEN, "Your role does not allow this", "Ask an administrator.");
    }

    @ExceptionHandler
    ProblemDetail unexpected(Exception unexpected) {
        String id = UUID.randomUUID().toString().substring(0, 8);
        LOG.error("request failed, id {}", id, unexpected);
        return problem(
                HttpStatus.INTERNAL_SERVER_ERROR,
                "Something went wrong here",
                "Try again. If it stays, give the administrator this id, which stands in the service's log: " + id);
    }

    static ProblemDetail problem(HttpStatus status, String title, String detail) {
        ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, detail);
        problem.setTitle(title);
        return problem;
    }
}
