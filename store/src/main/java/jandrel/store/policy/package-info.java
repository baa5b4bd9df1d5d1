/** Policies and their versions, who is covered by which, and exclusions. */
@NullMarked
package jandrel.store.policy;

import org.jspecify.annotations.NullMarked;
