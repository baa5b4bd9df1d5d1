/** The requests and answers of the HTTP interface, as plain records. */
@NullMarked
package jandrel.api;

import org.jspecify.annotations.NullMarked;
