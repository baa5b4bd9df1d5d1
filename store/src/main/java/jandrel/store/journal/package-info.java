/** The append-only, hash-chained journal: written, verified and exported. */
@NullMarked
package jandrel.store.journal;

import org.jspecify.annotations.NullMarked;
