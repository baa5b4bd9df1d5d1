/** Policies, coverage and exclusions over HTTP. */
@NullMarked
package jandrel.service.policy;

import org.jspecify.annotations.NullMarked;
