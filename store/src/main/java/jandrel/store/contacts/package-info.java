/** Cards of people’s address books, and how they are kept in step with contacts. */
@NullMarked
package jandrel.store.contacts;

import org.jspecify.annotations.NullMarked;
