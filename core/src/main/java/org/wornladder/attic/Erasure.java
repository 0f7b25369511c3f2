package org.wornladder.attic;

/**
 * What a rung erases.
 *
 * @param table as the rung writes it
 * @param column empty unless a column goes
 */
public record Erasure(Kind kind, String table, String column) {
  /** What is gone. */
  public enum Kind {
    TABLE,
    COLUMN,
    /** All rows of a table that stays. */
    ROWS
  }

  /** As a person would name it. */
  public String words() {
    return switch (kind) {
      case TABLE -> "table " + table;
      case COLUMN -> "column " + table + "." + column;
      case ROWS -> "rows of " + table;
    };
  }
}
