package org.wornladder.project;

/** What must hold in a database before a rung runs there. */
public sealed interface Condition {
  /** The condition as a person writes it. */
  String text();

  /** The kinds of thing that a condition may ask for. */
  enum Kind {
    TABLE,
    COLUMN,
    INDEX,
    VIEW
  }

  /**
   * Something is there, or is missing.
   *
   * @param table the table of a column; otherwise the object's own name
   * @param column the column's name; empty for all other kinds
   */
  record Presence(Kind kind, String table, String column, boolean present, String text)
      implements Condition {}

  /** A query whose first value is true or above zero. */
  record Query(String sql) implements Condition {
    @Override
    public String text() {
      return sql;
    }
  }
}
