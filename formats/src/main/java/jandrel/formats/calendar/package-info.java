/** Calendar objects (RFC 5545, 7986) to occurrences. */
@NullMarked
package jandrel.formats.calendar;

import org.jspecify.annotations.NullMarked;
