/** What is captured for whom, and who reads it. */
@NullMarked
package jandrel.core.policy;

import org.jspecify.annotations.NullMarked;
