/** What readers find at a source, before any judgement: messages, meetings and what could not be read. */
@NullMarked
package jandrel.core.item;

import org.jspecify.annotations.NullMarked;
