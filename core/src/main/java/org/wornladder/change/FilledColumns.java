package org.wornladder.change;

import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** The columns that get values for rows that have none. */
final class FilledColumns {
  private FilledColumns() {}

  /** Their names with their tables' in front. */
  static Set<String> in(List<SchemaChange> changes) {
    Set<String> filled = new HashSet<>();
    for (SchemaChange change : changes) {
      String table = change.target().displayName() + ".";
      if (change instanceof SchemaChange.FillNulls fill) {
        filled.add(table + fill.column());
      } else if (change instanceof SchemaChange.Rebuild rebuild) {
        rebuild.values().keySet().forEach(column -> filled.add(table + column));
      }
    }
    return filled;
  }
}
