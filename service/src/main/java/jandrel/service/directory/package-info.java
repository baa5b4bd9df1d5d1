/** Importing and looking up records. */
@NullMarked
package jandrel.service.directory;

import org.jspecify.annotations.NullMarked;
