package jandrel.sources;

import java.util.List;

/**
 * What is new in a collection.
 *
 * @param token to ask with next time
 * @param changed hrefs of objects that are new or differ
 * @param removed hrefs of objects that have gone
 * @param whole whether {@code changed} lists all there is, as at the first time or after the server forgot the token
 */
public record DavChanges(String token, List<String> changed, List<String> removed, boolean whole) {}
