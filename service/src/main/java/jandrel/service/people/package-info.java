/** People, sign-ins, sessions and tokens; people provisioned by SCIM. */
@NullMarked
package jandrel.service.people;

import org.jspecify.annotations.NullMarked;
