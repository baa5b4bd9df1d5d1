package jandrel.core.directory;

/**
 * Something in a file that does not fit.
 *
 * @param line counted from 1, the header line included
 * @param column the column's name; empty when the whole line or file is meant
 */
public record ImportProblem(long line, String column, String reason) {}
