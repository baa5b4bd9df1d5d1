/** What stands on timelines, made from every sighting of an item. */
@NullMarked
package jandrel.core.timeline;

import org.jspecify.annotations.NullMarked;
