package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.schema.View;

/**
 * What structures of two engines have in common: tables, columns and whether they may be null, the
 * columns of primary keys and of foreign keys, and the names of views. Names in lower case, since
 * engines fold them differently; types and expressions are left out, since each has its own words.
 */
public final class CommonSubset {
  private CommonSubset() {}

  public static Snapshot of(Snapshot whole) {
    List<DatabaseObject> common = new ArrayList<>();
    for (DatabaseObject object : whole.objects()) {
      if (object instanceof Table table) {
        common.add(table(table));
      } else if (object.kind() == Kind.VIEW) {
        common.add(new View(lower(object.id()), "", Map.of(), List.of(), List.of()));
      }
    }
    return new Snapshot(common, whole.unseen());
  }

  private static Table table(Table table) {
    return new Table(
        lower(table.id()),
        table.columns().stream().map(column -> column(column, table)).toList(),
        table.key().map(key -> PrimaryKey.over(lower(key.columns()))),
        table.foreignKeys().stream().map(CommonSubset::foreignKey).toList(),
        List.of(),
        List.of(),
        Map.of(),
        "",
        List.of());
  }

  private static Column column(Column column, Table table) {
    boolean nullable = column.nullable() && !isRowNumber(column, table);
    return new Column(lower(column.name()), "", nullable, Optional.empty(), Map.of());
  }

  /**
   * Whether a column is never null although it does not say so: SQLite's number of a row (its
   * manual, "ROWIDs and the INTEGER PRIMARY KEY").
   */
  private static boolean isRowNumber(Column column, Table table) {
    return column.type().equalsIgnoreCase("integer")
        && table.key().filter(key -> key.columns().equals(List.of(column.name()))).isPresent();
  }

  private static ForeignKey foreignKey(ForeignKey key) {
    return ForeignKey.unnamed(
        lower(key.columns()), lower(key.target()), List.of(), "NO ACTION", "NO ACTION");
  }

  private static ObjectId lower(ObjectId id) {
    return new ObjectId(id.kind(), lower(id.schema()), lower(id.name()), id.qualifier());
  }

  private static List<String> lower(List<String> names) {
    return names.stream().map(CommonSubset::lower).toList();
  }

  private static String lower(String name) {
    return name.toLowerCase(Locale.ROOT);
  }
}
