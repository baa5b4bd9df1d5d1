/** What somebody is told of, and when their meetings ring. */
@NullMarked
package jandrel.core.notice;

import org.jspecify.annotations.NullMarked;
