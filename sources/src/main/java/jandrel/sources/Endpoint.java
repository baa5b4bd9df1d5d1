package jandrel.sources;

/** @param path where a CalDAV server begins; not used for mail */
public record Endpoint(String host, int port, String path) {}
