/** Mail addresses and domain names as values, compared the way matching compares them. */
@NullMarked
package jandrel.core.address;

import org.jspecify.annotations.NullMarked;
