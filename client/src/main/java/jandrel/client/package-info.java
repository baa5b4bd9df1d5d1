/** The command line: talks HTTP, knows the API's records and nothing else of the service. */
@NullMarked
package jandrel.client;

import org.jspecify.annotations.NullMarked;
