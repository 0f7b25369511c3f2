package org.wornladder.engine;

import java.util.List;

/** The form of a table of the tool's own. Its first column is the key, and counts its rows. */
public record OwnTable(String name, List<OwnColumn> columns) {
  public OwnTable {
    columns = List.copyOf(columns);
  }

  /** What a column holds. */
  public enum Content {
    /** Whole numbers of 64 bits. */
    NUMBER,
    /** Whole numbers of 32 bits. */
    SMALL,
    /** Plain texts of at most 64 characters. */
    WORD,
    /** Texts of a line. */
    TEXT,
    /** Texts of any length. */
    SCRIPT
  }

  /**
   * A column.
   *
   * @param filled whether NULL is refused
   */
  public record OwnColumn(String name, Content content, boolean filled) {
    /** One that refuses NULL. */
    public static OwnColumn filled(String name, Content content) {
      return new OwnColumn(name, content, true);
    }
  }

  /** The names of the columns, in order. */
  public List<String> columnNames() {
    return columns.stream().map(OwnColumn::name).toList();
  }
}
