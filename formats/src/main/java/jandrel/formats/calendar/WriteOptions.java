package jandrel.formats.calendar;

import java.time.Instant;
import java.util.Map;

/**
 * What is written beside the details.
 *
 * @param organiser the address and name of who asks the guests
 * @param rings whether the calendar has the reminder; else an alarm in it is left as it is
 * @param asks whether the guests are to be asked, by a server that does so (RFC 6638)
 * @param names of guests, by address, as far as they are known
 */
public record WriteOptions(
        int sequence,
        Instant stamp,
        String organiser,
        String organiserName,
        String mark,
        String sort,
        boolean rings,
        boolean asks,
        Map<String, String> names) {}
