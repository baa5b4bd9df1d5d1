/** two sides that hold the same, kept in step: a three-way merge, and the exchange that carries its result over. */
@NullMarked
package jandrel.core.reconcile;

import org.jspecify.annotations.NullMarked;
