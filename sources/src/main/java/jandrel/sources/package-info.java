/** Mailboxes and calendars over the network: bytes in, judgement nowhere. */
@NullMarked
package jandrel.sources;

import org.jspecify.annotations.NullMarked;
