/** What every subject of the store stands on: JSON, COPY, keyed hashes, locks, news, the outbox. */
@NullMarked
package jandrel.store.kernel;

import org.jspecify.annotations.NullMarked;
