/** Signing in, and who may do what. */
@NullMarked
package jandrel.service.people;

import org.jspecify.annotations.NullMarked;
