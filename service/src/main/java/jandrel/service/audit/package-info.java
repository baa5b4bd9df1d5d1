/** Decisions, and what they add up to. */
@NullMarked
package jandrel.service.audit;

import org.jspecify.annotations.NullMarked;
