/** What leaves whole, and comes back. */
@NullMarked
package jandrel.store.retention;

import org.jspecify.annotations.NullMarked;
