package org.wornladder.schema;

import java.util.List;

/**
 * A reference to another table.
 *
 * @param targetColumns empty where the target's primary key is meant
 * @param onUpdate the action's words, such as NO ACTION
 * @param onDelete likewise
 */
public record ForeignKey(
    List<String> columns,
    String table,
    List<String> targetColumns,
    String onUpdate,
    String onDelete) {
  public ForeignKey {
    columns = List.copyOf(columns);
    targetColumns = List.copyOf(targetColumns);
  }
}
