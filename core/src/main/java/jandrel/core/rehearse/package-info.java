/** What a changed rule would do, told from what it was and what it would be. */
@NullMarked
package jandrel.core.rehearse;

import org.jspecify.annotations.NullMarked;
