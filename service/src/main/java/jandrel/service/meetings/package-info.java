/** Calendar sync, meetings that are managed here, invitations, feeds, and the calendar over HTTP. */
@NullMarked
package jandrel.service.meetings;

import org.jspecify.annotations.NullMarked;
