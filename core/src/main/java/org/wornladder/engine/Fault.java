package org.wornladder.engine;

import java.util.Optional;

/**
 * What the database said when something failed.
 *
 * @param message the database's own, without the driver's wrapping and without values of rows
 * @param values what it said of the values of a row; empty if nothing
 */
public record Fault(Kind kind, String message, Optional<String> values) {
  /** A failure of which no more is known. */
  public Fault(Kind kind, String message) {
    this(kind, message, Optional.empty());
  }

  /** What kind of failure it is, as far as it changes what to do next. */
  public enum Kind {
    STATEMENT,
    /** Somebody else held what was needed; another attempt may do. */
    BUSY,
    /** The environment's own limit on how long a statement runs. */
    TIMEOUT,
    /** The connection is gone. */
    CUT,
    /** The session is not the one that was opened: something in between deals sessions out. */
    STRANDED,
    /** Another process took the lock over, for which this one gave no sign of life. */
    TAKEN_OVER,
    DENIED,
    READ_ONLY,
    FULL,
    NOT_A_DATABASE
  }
}
