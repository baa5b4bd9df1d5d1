/** Everything that PostgreSQL keeps, and the transactions over it. */
@NullMarked
package jandrel.store;

import org.jspecify.annotations.NullMarked;
