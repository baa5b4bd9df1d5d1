/** What somebody looks for in what was written: the query, the language of a text, and where in it a query's words stand. */
@NullMarked
package jandrel.core.search;

import org.jspecify.annotations.NullMarked;
