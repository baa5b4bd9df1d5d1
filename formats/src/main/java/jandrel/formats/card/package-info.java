/** Cards of address books (vCard 2.1, RFC 2426, RFC 6350): read tolerantly, changed line by line; what is not known here stays as it was. */
@NullMarked
package jandrel.formats.card;

import org.jspecify.annotations.NullMarked;
