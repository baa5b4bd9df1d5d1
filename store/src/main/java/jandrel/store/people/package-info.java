/** People, teams and sign-ins. */
@NullMarked
package jandrel.store.people;

import org.jspecify.annotations.NullMarked;
