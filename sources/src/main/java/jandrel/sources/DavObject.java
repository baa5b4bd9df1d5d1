package jandrel.sources;

/**
 * An object of a collection at a server.
 *
 * @param href its path, which names it
 * @param tag names its state (RFC 9110 §8.8.3)
 */
public record DavObject(String href, String tag, byte[] bytes) {}
