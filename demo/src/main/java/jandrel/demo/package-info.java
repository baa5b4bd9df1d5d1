/**
 * Corvane, a made-up maker of harbour buoys and tide sensors: its people, customers, mail and meetings, from a fixed seed; and a
 * drive through the service with all of it.
 */
@NullMarked
package jandrel.demo;

import org.jspecify.annotations.NullMarked;
