/** Opportunities that meetings open or join. Pure. */
@NullMarked
package jandrel.core.opening;

import org.jspecify.annotations.NullMarked;
