package org.wornladder.change;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Column;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Schema;
import org.wornladder.schema.SchemaObject;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/** Small structures for tests. */
final class Structures {
  static final Column CODE = column("code", "text", false);
  static final Column WEIGHT = column("weight_kg", "integer", true);

  private Structures() {}

  static Column column(String name, String type, boolean nullable) {
    return new Column(name, type, nullable, Optional.empty(), Map.of());
  }

  static Index index(String name, String definition) {
    return new Index(name, List.of("code"), false, false, false, definition);
  }

  static SchemaObject view(String name, String definition) {
    return new SchemaObject(Kind.VIEW, name, "", definition);
  }

  static Table table(String name, List<Column> columns, Index... indexes) {
    return new Table(
        name,
        columns,
        List.of("code"),
        Map.of(),
        List.of(),
        List.of(),
        List.of(indexes),
        Map.of(),
        "");
  }

  static Snapshot structure(Table... tables) {
    return structure(List.of(tables));
  }

  static Snapshot structure(List<Table> tables, SchemaObject... objects) {
    return new Schema(tables, List.of(objects)).snapshot();
  }
}
