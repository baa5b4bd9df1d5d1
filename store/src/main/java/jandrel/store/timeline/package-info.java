/** Reading activities and decisions, always for a viewer. */
@NullMarked
package jandrel.store.timeline;

import org.jspecify.annotations.NullMarked;
