/** Messages (RFC 5322, 2045 to 2047, 2231) to facts. Tolerant of any input, bounded for any input. */
@NullMarked
package jandrel.formats.mail;

import org.jspecify.annotations.NullMarked;
