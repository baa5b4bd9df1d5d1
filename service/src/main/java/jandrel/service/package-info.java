/** The running service. */
@NullMarked
package jandrel.service;

import org.jspecify.annotations.NullMarked;
