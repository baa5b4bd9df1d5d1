/** The directory's CSV files. */
@NullMarked
package jandrel.formats.table;

import org.jspecify.annotations.NullMarked;
