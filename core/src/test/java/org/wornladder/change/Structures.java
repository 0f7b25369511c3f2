package org.wornladder.change;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.schema.View;

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

  static View view(String name, String definition) {
    return new View(ObjectId.of(Kind.VIEW, name), definition, Map.of(), List.of(), List.of());
  }

  static Table table(String name, List<Column> columns, Index... indexes) {
    return new Table(
        ObjectId.of(Kind.TABLE, name),
        columns,
        Optional.of(PrimaryKey.over(List.of("code"))),
        List.of(),
        List.of(),
        List.of(indexes),
        Map.of(),
        "",
        List.of());
  }

  static Snapshot structure(Table... tables) {
    return structure(List.of(tables));
  }

  static Snapshot structure(List<Table> tables, DatabaseObject... objects) {
    return new Schema(tables, List.of(objects)).snapshot();
  }
}
