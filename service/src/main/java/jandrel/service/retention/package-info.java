/** Removing what has expired. */
@NullMarked
package jandrel.service.retention;

import org.jspecify.annotations.NullMarked;
