/** What the service does for itself from time to time. */
@NullMarked
package jandrel.service.upkeep;

import org.jspecify.annotations.NullMarked;
