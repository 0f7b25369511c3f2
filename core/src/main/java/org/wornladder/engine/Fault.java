package org.wornladder.engine;

/**
 * What the database said when something failed.
 *
 * @param words the database's own, without the driver's wrapping
 */
public record Fault(Kind kind, String words) {
  /** What kind of failure it is, as far as it changes what to do next. */
  public enum Kind {
    STATEMENT,
    BUSY,
    READ_ONLY,
    FULL,
    NOT_A_DATABASE
  }
}
