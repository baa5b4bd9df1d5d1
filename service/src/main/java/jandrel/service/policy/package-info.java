/** The policy and the exclusions. */
@NullMarked
package jandrel.service.policy;

import org.jspecify.annotations.NullMarked;
