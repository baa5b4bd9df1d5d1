package jandrel.sources;

/**
 * How what went wrong is told.
 *
 * @param server such as {@code the calendar server}
 * @param place such as {@code calendar}
 * @param thing what an object in it is, such as {@code meeting}
 * @param largest bytes of one object; a larger one is named as that, and stops nothing
 */
record DavWords(String server, String place, String thing, int largest) {}
