package org.wornladder;

import java.util.Locale;

/** What a database's structure is held against. */
public enum Against {
  /** What its history says should be there. */
  EXPECTED,
  /** What the rungs and standing scripts make of an empty database. */
  RUNGS,
  /** What the files in {@code schema/} declare. */
  SCHEMA;

  /** The word as it is typed. */
  public String label() {
    return name().toLowerCase(Locale.ROOT);
  }
}
