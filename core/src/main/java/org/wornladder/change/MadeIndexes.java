package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Index;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/** The indexes that a database makes for foreign keys, which no difference names. */
final class MadeIndexes {
  private MadeIndexes() {}

  /**
   * A planned structure with the indexes that come with its foreign keys.
   *
   * @param real a structure that was read, which has them
   */
  static Snapshot in(Snapshot planned, Snapshot real) {
    List<DatabaseObject> objects = new ArrayList<>();
    for (DatabaseObject object : planned.objects()) {
      objects.add(
          object instanceof Table table
              ? real.object(table.id()).map(other -> in(table, (Table) other)).orElse(object)
              : object);
    }
    return new Snapshot(objects, planned.unseen());
  }

  private static DatabaseObject in(Table table, Table real) {
    List<Part> parts = new ArrayList<>(table.storedParts());
    for (Index index : real.indexes()) {
      boolean known = table.indexes().stream().anyMatch(one -> one.name().equals(index.name()));
      boolean made =
          index.fromConstraint()
              && table.foreignKeys().stream().anyMatch(key -> key.knownAs().equals(index.name()));
      if (made && !known) {
        parts.add(index);
      }
    }
    return parts.size() == table.storedParts().size() ? table : table.with(table.facts(), parts);
  }
}
