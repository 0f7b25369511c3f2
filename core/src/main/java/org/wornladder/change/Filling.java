package org.wornladder.change;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Column;

/** Puts values into rows that have none, right before the column must have one. */
final class Filling {
  private Filling() {}

  /**
   * A change, with what goes before it or in its place.
   *
   * @param fills SQL by the column's name with its table's in front
   */
  static List<SchemaChange> of(SchemaChange change, Map<String, String> fills) {
    if (change instanceof SchemaChange.Rebuild rebuild) {
      return List.of(rebuilt(rebuild, fills));
    }
    if (change instanceof SchemaChange.AddPart add && add.part() instanceof Column column) {
      return value(change, column, fills)
          .map(sql -> added(add, column, sql))
          .orElse(List.of(change));
    }
    if (change instanceof SchemaChange.AlterPart alter && alter.after() instanceof Column column) {
      return value(change, column, fills)
          .map(sql -> List.of(fill(change, column, sql), change))
          .orElse(List.of(change));
    }
    return List.of(change);
  }

  private static Optional<String> value(
      SchemaChange change, Column column, Map<String, String> fills) {
    return Optional.ofNullable(fills.get(change.target().displayName() + "." + column.name()));
  }

  private static SchemaChange fill(SchemaChange change, Column column, String sql) {
    return new SchemaChange.FillNulls(change.target(), column.name(), sql);
  }

  private static List<SchemaChange> added(SchemaChange.AddPart add, Column column, String sql) {
    if (column.nullable()) {
      return List.of(add, fill(add, column, sql));
    }
    Column open =
        new Column(
            column.name(),
            column.type(),
            true,
            column.defaultValue(),
            column.more(),
            column.dependsOn());
    List<SchemaChange> changes = new ArrayList<>();
    changes.add(new SchemaChange.AddPart(add.target(), open, add.position()));
    changes.add(fill(add, column, sql));
    changes.add(new SchemaChange.AlterPart(add.target(), open, column));
    return changes;
  }

  private static SchemaChange rebuilt(SchemaChange.Rebuild rebuild, Map<String, String> fills) {
    Map<String, String> values = new HashMap<>();
    for (Column column : rebuild.after().columns()) {
      value(rebuild, column, fills).ifPresent(sql -> values.put(column.name(), sql));
    }
    return new SchemaChange.Rebuild(rebuild.before(), rebuild.after(), values);
  }
}
