/** Servers and connections over HTTP, opening accounts, access tokens, and where the service may connect to. */
@NullMarked
package jandrel.service.connections;

import org.jspecify.annotations.NullMarked;
