/** Servers, connections and their sources; who listens to which mailbox. */
@NullMarked
package jandrel.store.connections;

import org.jspecify.annotations.NullMarked;
