/** Timelines and decisions over HTTP, and the stream of what has changed. */
@NullMarked
package jandrel.service.timeline;

import org.jspecify.annotations.NullMarked;
