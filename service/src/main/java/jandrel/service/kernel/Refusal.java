package jandrel.service.kernel;

import jandrel.api.DirectoryApi.LineProblem;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.http.ProblemDetail;

/** A request that cannot be met, with what its sender can do about it. The texts hold nothing of an item. */
public final class Refusal extends RuntimeException {
    private static final long serialVersionUID = 1L;
    private final HttpStatus status;
    private final String detail;
    private final transient List<LineProblem> problems;

    private Refusal(HttpStatus status, String title, String detail, List<LineProblem> problems) {
        super(title);
        this.status = status;
        this.detail = detail;
        this.problems = problems;
    }

    public static Refusal of(HttpStatus status, String title, String detail) {
        return new Refusal(status, title, detail, List.of());
    }

    public static Refusal bad(String title, String detail) {
        return of(HttpStatus.BAD_REQUEST, title, detail);
    }

    public static Refusal notFound(String what) {
        return of(HttpStatus.NOT_FOUND, "There is no such " + what, "Check the id; it may have gone in the meantime.");
    }

    public static Refusal misfit(String title, String detail, List<LineProblem> problems) {
        return new Refusal(HttpStatus.UNPROCESSABLE_CONTENT, title, detail, List.copyOf(problems));
    }

    /** @param problems what it is by now, by what it is of */
    public static Refusal overtaken(String title, String detail, List<LineProblem> problems) {
        return new Refusal(HttpStatus.CONFLICT, title, detail, List.copyOf(problems));
    }

    HttpStatus status() {
        return status;
    }

    /** What to do. */
    public String detail() {
        return detail;
    }

    public List<LineProblem> problems() {
        return problems;
    }

    static ProblemDetail problem(HttpStatus status, String title, String detail) {
        ProblemDetail problem = ProblemDetail.forStatusAndDetail(status, detail);
        problem.setTitle(title);
        return problem;
    }
}
