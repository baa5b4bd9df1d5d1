/** What somebody chose to be told of, and what they have read of it. */
@NullMarked
package jandrel.store.notices;

import org.jspecify.annotations.NullMarked;
