/** What a changed rule would do, counted and listed without doing it. */
@NullMarked
package jandrel.store.rehearsal;

import org.jspecify.annotations.NullMarked;
