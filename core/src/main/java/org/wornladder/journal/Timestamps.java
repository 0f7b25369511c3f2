package org.wornladder.journal;

import java.time.Clock;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;

/** Times as the journal records them. */
final class Timestamps {
  private static final DateTimeFormatter FORMAT =
      DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH:mm:ss.SSSX").withZone(ZoneOffset.UTC);

  private Timestamps() {}

  /** Now, in UTC, ISO 8601 with milliseconds. */
  static String now(Clock clock) {
    return FORMAT.format(clock.instant());
  }

  /** Whether a text is such a time. */
  static boolean isOne(String text) {
    try {
      FORMAT.parse(text);
      return true;
    } catch (DateTimeParseException e) {
      return false;
    }
  }
}
