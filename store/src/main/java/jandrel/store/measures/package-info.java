/** The rows that measures are made of. */
@NullMarked
package jandrel.store.measures;

import org.jspecify.annotations.NullMarked;
