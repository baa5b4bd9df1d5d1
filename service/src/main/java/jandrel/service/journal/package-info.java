/** The journal over HTTP. */
@NullMarked
package jandrel.service.journal;

import org.jspecify.annotations.NullMarked;
