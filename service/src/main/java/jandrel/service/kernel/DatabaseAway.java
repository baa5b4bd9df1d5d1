package jandrel.service.kernel;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.Objects;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ProblemDetail;
import org.springframework.stereotype.Component;
import org.springframework.web.filter.OncePerRequestFilter;
import tools.jackson.databind.json.JsonMapper;

/** While the database cannot be reached every call gets the same answer, wherever on its way that is found out. */
@Component
@Order(Ordered.HIGHEST_PRECEDENCE + 100)
class DatabaseAway extends OncePerRequestFilter {
    private static final Logger LOG = LoggerFactory.getLogger(DatabaseAway.class);
    static final String RETRY_SECONDS = "5";
    private static final int MOST_CAUSES = 30;
    private final JsonMapper json;

    DatabaseAway(JsonMapper json) {
        this.json = json;
    }

    /** Classes 08 and 57P of PostgreSQL's error codes: no connection, or a server that is stopping or starting. */
    static boolean isIn(Throwable failure) {
        Throwable at = failure;
        for (int n = 0; at != null && n < MOST_CAUSES; n++, at = at.getCause()) {
            if (at instanceof SQLTransientConnectionException) {
                return true;
            }
            String state = at instanceof SQLException sql ? Objects.requireNonNullElse(sql.getSQLState(), "") : "";
            if (state.startsWith("08") || state.startsWith("57P")) {
                return true;
            }
        }
        return false;
    }

    /** PostgreSQL's query_canceled: it ran for longer than it may. */
    static boolean isTooLong(Throwable failure) {
        Throwable at = failure;
        for (int n = 0; at != null && n < MOST_CAUSES; n++, at = at.getCause()) {
            if (at instanceof SQLException sql && "57014".equals(sql.getSQLState())) {
                return true;
            }
        }
        return false;
    }

    static ProblemDetail problem() {
        return Refusal.problem(
                HttpStatus.SERVICE_UNAVAILABLE,
                "The database cannot be reached",
                "Nothing is lost. Try again in a few seconds; if it stays, whoever runs the service can see why in its log.");
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
            throws ServletException, IOException {
        try {
            chain.doFilter(request, response);
        } catch (ServletException | RuntimeException failed) {
            if (!isIn(failed) || response.isCommitted()) {
                throw failed;
            }
            LOG.warn("a request was refused: the database cannot be reached");
            response.reset();
            response.setStatus(HttpStatus.SERVICE_UNAVAILABLE.value());
            response.setHeader(HttpHeaders.RETRY_AFTER, RETRY_SECONDS);
            response.setContentType(MediaType.APPLICATION_PROBLEM_JSON_VALUE);
            json.writeValue(response.getOutputStream(), problem());
        }
    }
}
