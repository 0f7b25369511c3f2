package org.wornladder.cli.view;

import java.util.Locale;

/** Durations for people: {@code <1 ms}, {@code 18 ms}, {@code 4.1 s}, {@code 2 min 10 s}. */
final class Durations {
  private static final long SECOND = 1000;
  private static final long MINUTE = 60 * SECOND;

  private Durations() {}

  static String text(long milliseconds) {
    if (milliseconds == 0) {
      return "<1 ms";
    }
    if (milliseconds < SECOND) {
      return milliseconds + " ms";
    }
    if (milliseconds < MINUTE) {
      return String.format(Locale.ROOT, "%.1f s", milliseconds / (double) SECOND);
    }
    return milliseconds / MINUTE + " min " + milliseconds % MINUTE / SECOND + " s";
  }
}
