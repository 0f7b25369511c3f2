package org.wornladder.schema;

import java.util.List;

/**
 * A table.
 *
 * @param columns in the table's own order
 * @param primaryKey its columns in key order; empty if it has none
 * @param indexes by name
 * @param definition the engine's own statement for it, which holds what the other parts do not
 */
public record Table(
    String name,
    List<Column> columns,
    List<String> primaryKey,
    List<ForeignKey> foreignKeys,
    List<Index> indexes,
    String definition) {
  public Table {
    columns = List.copyOf(columns);
    primaryKey = List.copyOf(primaryKey);
    foreignKeys = List.copyOf(foreignKeys);
    indexes = List.copyOf(indexes);
  }
}
