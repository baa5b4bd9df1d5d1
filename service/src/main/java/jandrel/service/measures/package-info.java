/** SellingFigures of what it takes to win. */
@NullMarked
package jandrel.service.measures;

import org.jspecify.annotations.NullMarked;
