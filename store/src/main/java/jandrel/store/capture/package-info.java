/** Intake and recording of items, positions at sources, and re-evaluation. */
@NullMarked
package jandrel.store.capture;

import org.jspecify.annotations.NullMarked;
