/** An authorisation server and a bearer-checking front for calendars, where no real ones install. */
@NullMarked
package jandrel.standin;

import org.jspecify.annotations.NullMarked;
