/** Rehearsals over HTTP and the worker that runs them. */
@NullMarked
package jandrel.service.rehearsal;

import org.jspecify.annotations.NullMarked;
