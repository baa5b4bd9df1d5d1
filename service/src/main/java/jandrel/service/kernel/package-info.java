/** What every subject of the service stands on: settings, keys, requests and refusals, paging, start-up. */
@NullMarked
package jandrel.service.kernel;

import org.jspecify.annotations.NullMarked;
