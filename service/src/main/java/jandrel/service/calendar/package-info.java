/** Meetings in calendars: looking at them, making and changing them here, and letting programs subscribe to them. */
@NullMarked
package jandrel.service.calendar;

import org.jspecify.annotations.NullMarked;
