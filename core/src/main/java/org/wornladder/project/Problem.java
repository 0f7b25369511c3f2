package org.wornladder.project;

import org.wornladder.Advice;
import org.wornladder.sql.Place;

/**
 * Something found in a file.
 *
 * @param message what is wrong, without a full stop
 * @param advice what to do about it
 */
public record Problem(Severity severity, Place place, String message, Advice advice) {
  /** How bad it is: an error stops the work, a note is only said. */
  public enum Severity {
    ERROR,
    NOTE
  }

  /** With a hint that names no command; it may be empty. */
  public Problem(Severity severity, Place place, String message, String hint) {
    this(severity, place, message, Advice.hint(hint));
  }

  /** With a hint that names no command; it may be empty. */
  public static Problem error(Place place, String message, String hint) {
    return error(place, message, Advice.hint(hint));
  }

  public static Problem error(Place place, String message, Advice advice) {
    return new Problem(Severity.ERROR, place, message, advice);
  }

  /** With a hint that names no command; it may be empty. */
  public static Problem note(Place place, String message, String hint) {
    return new Problem(Severity.NOTE, place, message, Advice.hint(hint));
  }

  public boolean isError() {
    return severity == Severity.ERROR;
  }
}
