/** Passes over sources: what they show becomes items, and items become decisions. */
@NullMarked
package jandrel.service.capture;

import org.jspecify.annotations.NullMarked;
