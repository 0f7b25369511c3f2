package org.wornladder.change;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Table;

/** Who depends on what in one structure, looked up by what is needed. */
final class DependencyIndex {
  private final Map<ObjectId, List<Dependent>> dependents = new HashMap<>();
  private final Map<ObjectId, List<Reference>> references = new HashMap<>();
  private final Map<ObjectId, List<DatabaseObject>> owned = new HashMap<>();

  /**
   * An object that needs another one.
   *
   * @param part the part of it that does; empty if the object itself does
   * @param column the column that it needs; empty if it needs all of the other object
   */
  record Dependent(DatabaseObject object, Optional<Part> part, String column) {}

  /** A foreign key and its table. */
  record Reference(Table table, ForeignKey key) {}

  static DependencyIndex of(Iterable<DatabaseObject> objects) {
    DependencyIndex index = new DependencyIndex();
    objects.forEach(index::add);
    return index;
  }

  private void add(DatabaseObject object) {
    add(object, Optional.empty(), object.dependsOn());
    for (Part part : object.parts()) {
      add(object, Optional.of(part), part.dependsOn());
      if (object instanceof Table table && part instanceof ForeignKey key) {
        references
            .computeIfAbsent(key.target(), id -> new ArrayList<>())
            .add(new Reference(table, key));
      }
    }
    object
        .owner()
        .ifPresent(owner -> owned.computeIfAbsent(owner, id -> new ArrayList<>()).add(object));
  }

  private void add(DatabaseObject object, Optional<Part> part, List<Dependency> needed) {
    for (Dependency dependency : needed) {
      dependents
          .computeIfAbsent(dependency.target(), id -> new ArrayList<>())
          .add(new Dependent(object, part, dependency.column()));
    }
  }

  /** Who needs an object, or a column of it. */
  List<Dependent> on(ObjectId target) {
    return dependents.getOrDefault(target, List.of());
  }

  /** Who needs a column by its name. */
  List<Dependent> on(ObjectId target, String column) {
    return on(target).stream()
        .filter(dependent -> dependent.column().equalsIgnoreCase(column))
        .toList();
  }

  /** The foreign keys that point to a table. */
  List<Reference> to(ObjectId table) {
    return references.getOrDefault(table, List.of());
  }

  /** The triggers, policies and rights of a table or view. */
  List<DatabaseObject> of(ObjectId owner) {
    return owned.getOrDefault(owner, List.of());
  }
}
