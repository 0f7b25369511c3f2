package org.wornladder.change;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Right;
import org.wornladder.schema.Sequence;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/** Changes as an engine's statements make them: in pieces where one statement cannot make all. */
final class PlannedChanges {
  private final Ddl ddl;
  private final List<SchemaChange> changes;
  private final Map<ObjectId, DatabaseObject> before;
  private final Map<ObjectId, DatabaseObject> after;
  private final List<SchemaChange> pieces = new ArrayList<>();

  private PlannedChanges(List<SchemaChange> changes, Snapshot before, Snapshot after, Ddl ddl) {
    this.ddl = ddl;
    this.changes = changes;
    this.before = Differences.byId(before);
    this.after = Differences.byId(after);
  }

  /**
   * The pieces, in no order yet.
   *
   * @param before the whole structure before the changes
   * @param after the whole structure after them
   */
  static List<SchemaChange> of(
      List<SchemaChange> changes, Snapshot before, Snapshot after, Ddl ddl) {
    PlannedChanges planned = new PlannedChanges(changes, before, after, ddl);
    planned.keysOfDroppedTables();
    for (SchemaChange change : changes) {
      planned.take(change);
    }
    return planned.pieces;
  }

  private void take(SchemaChange change) {
    if (change instanceof SchemaChange.Create create) {
      create(create.object());
    } else if (change instanceof SchemaChange.Rebuild rebuild) {
      pieces.add(change);
      rebuild.after().parts().stream()
          .filter(Index.class::isInstance)
          .forEach(index -> pieces.add(new SchemaChange.AddPart(rebuild.target(), index)));
    } else if (!(change instanceof SchemaChange.Drop drop) || !goesWithItsOwner(drop.object())) {
      pieces.add(change);
      pieces.addAll(
          ddl.alongWith(
              change,
              Optional.ofNullable(before.get(change.target())),
              Optional.ofNullable(after.get(change.target()))));
    }
  }

  private void create(DatabaseObject whole) {
    List<Part> inside = new ArrayList<>();
    List<Part> others = new ArrayList<>();
    for (Part part : whole.storedParts()) {
      boolean made = part instanceof Index index && index.fromConstraint();
      (made || ddl.isInside(whole, part) ? inside : others).add(part);
    }
    DatabaseObject object = whole.with(whole.facts(), inside);
    DatabaseObject first = ddl.firstVersion(object);
    pieces.add(new SchemaChange.Create(first));
    others.forEach(part -> pieces.add(new SchemaChange.AddPart(whole.id(), part)));
    if (!first.equals(object)) {
      pieces.add(new SchemaChange.Alter(first, object));
    }
  }

  /** A sequence of a column goes with it, and so do the rights on what goes. */
  private boolean goesWithItsOwner(DatabaseObject object) {
    if (object instanceof Right right) {
      return drops(right.object()) && !creates(right.object());
    }
    return object instanceof Sequence sequence
        && sequence
            .ownerTable()
            .filter(table -> drops(table) || dropsColumn(table, sequence.ownerColumn()))
            .isPresent();
  }

  private boolean drops(ObjectId id) {
    return changes.stream()
        .anyMatch(change -> change instanceof SchemaChange.Drop && change.target().equals(id));
  }

  private boolean creates(ObjectId id) {
    return changes.stream()
        .anyMatch(change -> change instanceof SchemaChange.Create && change.target().equals(id));
  }

  private boolean dropsColumn(ObjectId table, String column) {
    return changes.stream()
        .anyMatch(
            change ->
                change instanceof SchemaChange.DropPart drop
                    && drop.target().equals(table)
                    && drop.part().name().equals(column));
  }

  /** Tables that point at each other in a circle can only be dropped without the foreign keys. */
  private void keysOfDroppedTables() {
    Map<ObjectId, Table> left = new LinkedHashMap<>();
    for (SchemaChange change : changes) {
      if (change instanceof SchemaChange.Drop drop && drop.object() instanceof Table table) {
        left.put(table.id(), table);
      }
    }
    for (boolean more = true; more; ) {
      Set<ObjectId> referenced = referenced(left);
      more = left.keySet().removeIf(id -> !referenced.contains(id));
    }
    for (Table table : left.values()) {
      for (ForeignKey key : table.foreignKeys()) {
        boolean circular = !key.target().equals(table.id()) && left.containsKey(key.target());
        if (circular && !ddl.isInside(table, key)) {
          pieces.add(new SchemaChange.DropPart(table.id(), key));
        }
      }
    }
  }

  private static Set<ObjectId> referenced(Map<ObjectId, Table> tables) {
    Set<ObjectId> referenced = new HashSet<>();
    for (Table table : tables.values()) {
      table.foreignKeys().stream()
          .map(ForeignKey::target)
          .filter(target -> !target.equals(table.id()))
          .forEach(referenced::add);
    }
    return referenced;
  }
}
