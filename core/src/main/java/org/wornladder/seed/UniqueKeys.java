package org.wornladder.seed;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.NameList;
import org.wornladder.schema.Table;

/** What must be unique in a table. */
public final class UniqueKeys {
  private UniqueKeys() {}

  /** Columns that are unique together, the primary key's first. */
  public static List<List<String>> of(Table table) {
    List<List<String>> uniques = new ArrayList<>();
    if (!table.primaryKey().isEmpty()) {
      uniques.add(table.primaryKey());
    }
    for (Constraint constraint : table.constraints()) {
      if (constraint.kind() == Kind.UNIQUE) {
        uniques.add(NameList.inParentheses(constraint.definition()));
      }
    }
    for (Index index : table.indexes()) {
      if (index.unique() && !index.partial()) {
        uniques.add(index.columns());
      }
    }
    List<String> names = table.columns().stream().map(Column::name).toList();
    uniques.removeIf(columns -> columns.isEmpty() || !names.containsAll(columns));
    return uniques.stream().distinct().toList();
  }
}
