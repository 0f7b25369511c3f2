package org.wornladder.project;

import java.time.Duration;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Reads times such as {@code 500ms}, {@code 5s}, {@code 2m} and {@code 1h}. */
final class Durations {
  private static final Pattern FORM = Pattern.compile("(\\d{1,9}) ?(ms|s|m|h)");

  private Durations() {}

  static Optional<Duration> read(String text) {
    Matcher parts = FORM.matcher(text);
    if (!parts.matches()) {
      return Optional.empty();
    }
    long count = Long.parseLong(parts.group(1));
    return Optional.of(
        switch (parts.group(2)) {
          case "ms" -> Duration.ofMillis(count);
          case "s" -> Duration.ofSeconds(count);
          case "m" -> Duration.ofMinutes(count);
          default -> Duration.ofHours(count);
        });
  }
}
