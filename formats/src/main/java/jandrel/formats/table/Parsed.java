package jandrel.formats.table;

import jandrel.core.directory.ImportProblem;
import java.util.List;

/**
 * What a file comes to.
 *
 * @param rows of the lines that fit
 * @param problems of those that do not
 */
public record Parsed<R>(List<R> rows, List<ImportProblem> problems) {}
