/** Settling unmatched participants, by hand and by policy, and undoing it. */
@NullMarked
package jandrel.service.triage;

import org.jspecify.annotations.NullMarked;
