/** Participants who match no record, and what people tie items to. */
@NullMarked
package jandrel.store.triage;

import org.jspecify.annotations.NullMarked;
