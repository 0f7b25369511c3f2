package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Column;

/**
 * A temporary table for rows that are to be written to a real one.
 *
 * @param name its own name, without a schema
 * @param table the real table, as the structure names it
 * @param columns in the order of the rows that it takes
 * @param resolved columns beyond those, to be filled later
 * @param optional columns of which rows may say nothing; then the last of {@code columns} says
 *     which they are in a row
 * @param key the columns of the real table by which rows are found; all of them are among those
 *     here
 */
public record StagingTable(
    String name,
    String table,
    List<Part> columns,
    List<Part> resolved,
    List<String> optional,
    List<String> key) {
  static final String LEFT_OUT = "ladder_left_out";

  /**
   * One column.
   *
   * @param name its name here
   * @param table where the column stands whose type it has
   * @param column that column
   */
  public record Part(String name, String table, Column column) {
    /** The column that says what a row leaves out: a 1 for each column that it does, else a 0. */
    public static Part leftOut() {
      Column column = new Column(LEFT_OUT, "text", false, Optional.empty(), Map.of());
      return new Part(LEFT_OUT, "", column);
    }
  }

  public StagingTable {
    columns = List.copyOf(columns);
    resolved = List.copyOf(resolved);
    optional = List.copyOf(optional);
    key = List.copyOf(key);
  }

  /** The real table's column behind one that has its name here. */
  public Column column(String own) {
    return all().stream()
        .filter(part -> part.name().equals(own))
        .findFirst()
        .orElseThrow(() -> new IllegalArgumentException("no column " + own + " in " + name))
        .column();
  }

  /** One with another name of its own and the same columns. */
  public StagingTable named(String other) {
    return new StagingTable(other, table, columns, resolved, optional, key);
  }

  /** All its columns but the one that says where a row is. */
  public List<Part> all() {
    List<Part> all = new ArrayList<>(columns);
    all.addAll(resolved);
    return all;
  }
}
