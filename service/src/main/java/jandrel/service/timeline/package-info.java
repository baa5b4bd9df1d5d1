/** Timelines and search. */
@NullMarked
package jandrel.service.timeline;

import org.jspecify.annotations.NullMarked;
