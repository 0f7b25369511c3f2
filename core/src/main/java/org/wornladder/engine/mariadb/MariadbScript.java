package org.wornladder.engine.mariadb;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.change.SchemaChange;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;

/**
 * Neighbouring changes of one table as one statement: a key may only go in the statement in which
 * another one comes for what needs it, such as a foreign key or a column that counts (MariaDB
 * documentation, "ALTER TABLE"). Foreign keys stand alone: one cannot go and come in one statement.
 */
record MariadbScript(MariadbDdl ddl) {
  List<String> of(List<SchemaChange> ordered) {
    List<String> statements = new ArrayList<>();
    List<SchemaChange> together = new ArrayList<>();
    MariadbSettings settings = ddl.settings();
    for (SchemaChange change : ordered) {
      if (!together.isEmpty() && !fits(change, together.get(0))) {
        statements.addAll(merged(together));
        together.clear();
      }
      made(change).ifPresent(object -> statements.addAll(settings.before(object)));
      together.add(change);
    }
    statements.addAll(merged(together));
    statements.addAll(settings.after());
    return statements;
  }

  private static Optional<DatabaseObject> made(SchemaChange change) {
    if (change instanceof SchemaChange.Create create) {
      return Optional.of(create.object());
    }
    return change instanceof SchemaChange.Alter alter
        ? Optional.of(alter.after())
        : Optional.empty();
  }

  private static boolean fits(SchemaChange change, SchemaChange first) {
    return isOfTable(change) && isOfTable(first) && change.target().equals(first.target());
  }

  private static boolean isOfTable(SchemaChange change) {
    if (change instanceof SchemaChange.AddPart add) {
      return isMerged(add.part());
    }
    if (change instanceof SchemaChange.DropPart drop) {
      return isMerged(drop.part());
    }
    return change instanceof SchemaChange.AlterPart;
  }

  private static boolean isMerged(Part part) {
    return !(part instanceof ForeignKey);
  }

  private List<String> merged(List<SchemaChange> together) {
    List<String> all = new ArrayList<>();
    together.forEach(change -> all.addAll(ddl.statements(change)));
    if (together.size() < 2) {
      return all;
    }
    ObjectId table = together.get(0).target();
    String start = ddl.beginning(table);
    List<String> clauses =
        all.stream().map(statement -> statement.substring(start.length())).toList();
    return List.of(start + String.join(",\n  ", clauses));
  }
}
