/** The part of the directory that a batch of items touches. */
@NullMarked
package jandrel.core.directory;

import org.jspecify.annotations.NullMarked;
