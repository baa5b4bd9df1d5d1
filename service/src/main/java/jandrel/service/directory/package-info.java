/** The directory, as files bring it and people look it up. */
@NullMarked
package jandrel.service.directory;

import org.jspecify.annotations.NullMarked;
