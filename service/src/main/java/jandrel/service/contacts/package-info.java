/** Address books: reading them, and keeping contacts in step with them. */
@NullMarked
package jandrel.service.contacts;

import org.jspecify.annotations.NullMarked;
