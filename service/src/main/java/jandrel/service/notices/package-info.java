/** What concerns somebody: in the console, by the client and by mail. */
@NullMarked
package jandrel.service.notices;

import org.jspecify.annotations.NullMarked;
