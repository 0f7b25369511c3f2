package org.wornladder.project;

import org.wornladder.sql.Place;

/**
 * Something found in a file.
 *
 * @param message what is wrong, without a full stop
 * @param next what to do about it; may be empty
 */
public record Problem(Severity severity, Place place, String message, String next) {
  /** How bad it is: an error stops the work, a note is only said. */
  public enum Severity {
    ERROR,
    NOTE
  }

  public static Problem error(Place place, String message, String next) {
    return new Problem(Severity.ERROR, place, message, next);
  }

  static Problem note(Place place, String message, String next) {
    return new Problem(Severity.NOTE, place, message, next);
  }

  public boolean isError() {
    return severity == Severity.ERROR;
  }
}
