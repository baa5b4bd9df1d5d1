package jandrel.core.directory;

import java.util.List;

/** A file that does not fit: all that is wrong with it, gathered once. Nothing of it may be taken. */
public final class ImportRejected extends Exception {
    private static final long serialVersionUID = 1L;
    private final transient List<ImportProblem> problems;

    public ImportRejected(List<ImportProblem> problems) {
        super("the file has " + problems.size() + (problems.size() == 1 ? " problem" : " problems"));
        this.problems = List.copyOf(problems);
    }

    public List<ImportProblem> problems() {
        return problems;
    }
}
