/** Sync runs: reading mail, listening to mailboxes, re-evaluation. */
@NullMarked
package jandrel.service.capture;

import org.jspecify.annotations.NullMarked;
