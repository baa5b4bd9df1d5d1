/** The journal: entries chained by hash, in a form that anybody can verify. */
@NullMarked
package jandrel.core.journal;

import org.jspecify.annotations.NullMarked;
