package org.wornladder.engine;

/** What the values of a column are, as far as it matters to how they are written in files. */
public enum ValueKind {
  TEXT,
  WHOLE,
  DECIMAL,
  FLOATING,
  TRUTH,
  DATE,
  TIME,
  /** A date with a time of day. */
  MOMENT,
  BINARY,
  JSON,
  /** Several values of one type. */
  LIST,
  /** What the database alone can read. */
  OTHER
}
