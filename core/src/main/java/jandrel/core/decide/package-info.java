/** The verdict on one item at one person's source, and the reasons for it. */
@NullMarked
package jandrel.core.decide;

import org.jspecify.annotations.NullMarked;
