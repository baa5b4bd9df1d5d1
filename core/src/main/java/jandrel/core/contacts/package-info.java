/** Contacts as address books have them: what is kept in step, which of them, and who on a card is who in the directory. */
@NullMarked
package jandrel.core.contacts;

import org.jspecify.annotations.NullMarked;
