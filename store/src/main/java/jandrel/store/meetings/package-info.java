/** Meetings that are managed here, invitations and answers, feeds, and the calendar as it is shown. */
@NullMarked
package jandrel.store.meetings;

import org.jspecify.annotations.NullMarked;
