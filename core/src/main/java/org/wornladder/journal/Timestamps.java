package org.wornladder.journal;

import java.time.Clock;
import java.time.LocalDateTime;
import java.time.ZoneOffset;

/**
 * Times as they stand in the journal. Written by hand: the formatter of the library starts slowly.
 */
final class Timestamps {
  private Timestamps() {}

  /** Now, in UTC, ISO 8601 with milliseconds. */
  static String now(Clock clock) {
    LocalDateTime time = LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC);
    StringBuilder out = new StringBuilder(24);
    pad(out, time.getYear(), 4).append('-');
    pad(out, time.getMonthValue(), 2).append('-');
    pad(out, time.getDayOfMonth(), 2).append('T');
    pad(out, time.getHour(), 2).append(':');
    pad(out, time.getMinute(), 2).append(':');
    pad(out, time.getSecond(), 2).append('.');
    return pad(out, time.getNano() / 1_000_000, 3).append('Z').toString();
  }

  private static StringBuilder pad(StringBuilder out, int number, int digits) {
    String text = Integer.toString(number);
    for (int i = text.length(); i < digits; i++) {
      out.append('0');
    }
    return out.append(text);
  }
}
