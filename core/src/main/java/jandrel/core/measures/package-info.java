/** What it takes to win: figures over plain rows, each with one definition in words. */
@NullMarked
package jandrel.core.measures;

import org.jspecify.annotations.NullMarked;
