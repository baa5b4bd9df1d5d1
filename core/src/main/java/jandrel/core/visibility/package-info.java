/** Who gets what of an activity. */
@NullMarked
package jandrel.core.visibility;

import org.jspecify.annotations.NullMarked;
