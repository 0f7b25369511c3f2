package org.wornladder.project;

import java.time.Duration;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Reads {@code 5000 by id}. */
final class BatchingReader {
  private static final Pattern FORM =
      Pattern.compile("([1-9]\\d{0,8}) by ((?:[\\w$]+\\.)?(?:[\\w$]+|\"[^\"]+\"|`[^`]+`))");

  private BatchingReader() {}

  static Optional<Batching> read(String text) {
    Matcher parts = FORM.matcher(text);
    return parts.matches()
        ? Optional.of(
            new Batching(
                Integer.parseInt(parts.group(1)), parts.group(2), Duration.ZERO, Optional.empty()))
        : Optional.empty();
  }
}
