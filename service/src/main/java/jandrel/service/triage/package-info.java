/** Strangers, and what people do about them. */
@NullMarked
package jandrel.service.triage;

import org.jspecify.annotations.NullMarked;
