/** Strangers: who is on items and on no record, and what to do about them first. */
@NullMarked
package jandrel.core.triage;

import org.jspecify.annotations.NullMarked;
