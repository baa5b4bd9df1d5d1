/** Records with their addresses and domains: imported, changed by hand, and cut into the slice that a batch needs. */
@NullMarked
package jandrel.store.directory;

import org.jspecify.annotations.NullMarked;
