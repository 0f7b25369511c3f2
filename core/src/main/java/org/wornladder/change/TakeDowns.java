package org.wornladder.change;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.change.DependencyIndex.Dependent;
import org.wornladder.change.DependencyIndex.Reference;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.NameList;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Right;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/**
 * What must go before a change and come again after it, since the engine does not change what
 * others depend on: views on a column that gets another type, a default that calls a function that
 * is made anew. Found transitively.
 */
final class TakeDowns {
  /** A type that every value can have for a while. */
  private static final String TEXT = "text";

  private final Ddl ddl;
  private final Map<ObjectId, DatabaseObject> before;
  private final Map<ObjectId, DatabaseObject> after;
  private final DependencyIndex index;
  private final List<SchemaChange> changes;
  private final Set<ObjectId> dropped = new HashSet<>();
  private final Set<ObjectId> recreated = new HashSet<>();
  private final Set<ObjectId> rebuilt = new HashSet<>();
  private final Set<String> cycled = new HashSet<>();
  private final Deque<SchemaChange> disturbing = new ArrayDeque<>();

  private TakeDowns(List<SchemaChange> changes, Snapshot before, Snapshot after, Ddl ddl) {
    this.ddl = ddl;
    this.before = new HashMap<>(Differences.byId(before));
    this.after = Differences.byId(after);
    this.index = DependencyIndex.of(before.objects());
    this.changes = new ArrayList<>(changes);
  }

  /**
   * Some changes and those that they make necessary.
   *
   * @param after the whole structure that the changes lead to
   */
  static List<SchemaChange> around(
      List<SchemaChange> changes, Snapshot before, Snapshot after, Ddl ddl) {
    TakeDowns downs = new TakeDowns(changes, before, after, ddl);
    downs.find();
    return downs.changes;
  }

  private void find() {
    for (SchemaChange change : changes) {
      if (change instanceof SchemaChange.Drop) {
        dropped.add(change.target());
      } else if (change instanceof SchemaChange.Rebuild) {
        rebuilt.add(change.target());
      }
    }
    for (SchemaChange change : List.copyOf(changes)) {
      if (change instanceof SchemaChange.Create create && dropped.contains(create.target())) {
        recreated.add(create.target());
        giveRights(create.object());
      }
    }
    disturbing.addAll(changes);
    while (!disturbing.isEmpty()) {
      disturb(disturbing.poll());
    }
  }

  private void disturb(SchemaChange change) {
    if (change instanceof SchemaChange.Drop drop) {
      index.on(drop.target()).forEach(one -> takeDown(change, one));
      if (recreated.contains(drop.target())) {
        index.of(drop.target()).forEach(this::recreate);
      }
    } else if (change instanceof SchemaChange.Rebuild rebuild) {
      index.on(rebuild.target()).forEach(one -> takeDown(change, one));
      index.of(rebuild.target()).stream()
          .filter(owned -> !ddl.tolerates(change, owned, Optional.empty()))
          .forEach(this::recreate);
    } else if (change instanceof SchemaChange.DropPart drop) {
      disturbPart(change, drop.target(), drop.part());
    } else if (change instanceof SchemaChange.AlterPart alter) {
      disturbPart(change, alter.target(), alter.before());
    }
  }

  private void disturbPart(SchemaChange change, ObjectId owner, Part part) {
    if (part instanceof Column) {
      index.on(owner, part.name()).forEach(one -> takeDown(change, one));
    }
    for (Reference reference : index.to(owner)) {
      if (uses(reference.key(), part, owner)) {
        takeDown(change, new Dependent(reference.table(), Optional.of(reference.key()), ""));
      }
    }
    if (part instanceof Column && before.get(owner) instanceof Table table) {
      table.foreignKeys().stream()
          .filter(key -> key.columns().contains(part.name()))
          .forEach(key -> takeDown(change, new Dependent(table, Optional.of(key), part.name())));
    }
  }

  /** Whether a foreign key points to a column or to the key over some columns. */
  private boolean uses(ForeignKey key, Part part, ObjectId owner) {
    List<String> columns =
        key.targetColumns().isEmpty() && before.get(owner) instanceof Table table
            ? table.primaryKey()
            : key.targetColumns();
    if (part instanceof Column column) {
      return columns.contains(column.name());
    }
    if (part instanceof PrimaryKey primary) {
      return Set.copyOf(primary.columns()).equals(Set.copyOf(columns));
    }
    if (part instanceof Index unique) {
      return unique.unique() && Set.copyOf(unique.columns()).equals(Set.copyOf(columns));
    }
    return part.kind() == Kind.UNIQUE && uniqueOver(owner, (Constraint) part).containsAll(columns);
  }

  /** The columns of a unique constraint: those of the index that it made. */
  private List<String> uniqueOver(ObjectId owner, Constraint constraint) {
    return before.get(owner) instanceof Table table
        ? table.indexes().stream()
            .filter(Index::fromConstraint)
            .filter(index -> index.name().equals(constraint.knownName().orElse("")))
            .findFirst()
            .map(Index::columns)
            .orElseGet(() -> NameList.inParentheses(constraint.definition()))
        : List.of();
  }

  private void takeDown(SchemaChange change, Dependent dependent) {
    ObjectId owner = dependent.object().id();
    boolean gone = dropped.contains(owner) && !recreated.contains(owner);
    if (gone
        || recreated.contains(owner)
        || rebuilt.contains(owner)
        || (ddl.tolerates(change, dependent.object(), dependent.part())
            && !isReplacedMeanwhile(change, dependent))) {
      return;
    }
    if (dependent.part().isEmpty()) {
      recreate(dependent.object());
    } else {
      cycle(dependent.object(), dependent.part().get(), change);
    }
  }

  /** Whether it is replaced by what may need things that come when the change is long done. */
  private boolean isReplacedMeanwhile(SchemaChange change, Dependent dependent) {
    boolean goes = change instanceof SchemaChange.Drop || change instanceof SchemaChange.DropPart;
    return goes
        && dependent.part().isEmpty()
        && changes.stream()
            .anyMatch(
                other ->
                    other instanceof SchemaChange.Alter
                        && other.target().equals(dependent.object().id()));
  }

  /** Drops an object before all else and creates it after all that it needs. */
  private void recreate(DatabaseObject object) {
    boolean possible =
        !object.kind().isTable()
            && !(object instanceof Right)
            && !dropped.contains(object.id())
            && after.containsKey(object.id())
            && ddl.refusal(after.get(object.id())).isEmpty();
    if (!possible || !recreated.add(object.id())) {
      return;
    }
    changes.removeIf(change -> change.target().equals(object.id()) && isInObject(change));
    SchemaChange drop = new SchemaChange.Drop(object);
    changes.add(drop);
    changes.add(new SchemaChange.Create(after.get(object.id())));
    giveRights(after.get(object.id()));
    dropped.add(object.id());
    disturbing.add(drop);
  }

  private static boolean isInObject(SchemaChange change) {
    return !(change instanceof SchemaChange.Drop) && !(change instanceof SchemaChange.Create);
  }

  /** What is made anew has no owner and no grants but those that it gets again. */
  private void giveRights(DatabaseObject object) {
    List<Right> rights = rightsOn(object.id());
    for (Right right : rights) {
      changes.removeIf(change -> change.target().equals(right.id()));
      changes.add(new SchemaChange.Create(right));
    }
    // Without any, rights are no part of what is changed.
    if (!rights.isEmpty()) {
      ddl.defaultRights(object).stream()
          .filter(right -> !after.containsKey(right.id()))
          .filter(right -> changes.stream().noneMatch(one -> one.target().equals(right.id())))
          .forEach(right -> changes.add(new SchemaChange.Drop(right)));
    }
  }

  private List<Right> rightsOn(ObjectId id) {
    return after.values().stream()
        .filter(Right.class::isInstance)
        .map(Right.class::cast)
        .filter(right -> right.object().equals(id))
        .toList();
  }

  /** Takes a part of a table away, and puts it back after the change. */
  private void cycle(DatabaseObject owner, Part part, SchemaChange cause) {
    Optional<Part> then = after(owner.id(), part);
    boolean going = changes.stream().anyMatch(change -> drops(change, owner.id(), part));
    if (going || !cycled.add(owner.id() + " " + part.kind() + " " + part.name())) {
      return;
    }
    if (part instanceof Column column && then.isPresent()) {
      cycle(owner.id(), column, (Column) then.get(), cause);
    } else {
      SchemaChange drop = new SchemaChange.DropPart(owner.id(), part);
      changes.removeIf(change -> alters(change, owner.id(), part));
      changes.add(drop);
      disturbing.add(drop);
      then.ifPresent(put -> changes.add(new SchemaChange.AddPart(owner.id(), put)));
    }
  }

  private void cycle(ObjectId owner, Column was, Column is, SchemaChange cause) {
    List<SchemaChange> own = changes.stream().filter(change -> alters(change, owner, was)).toList();
    changes.removeAll(own);
    Optional<SchemaChange.Position> position =
        after.get(owner) instanceof Table table
                && before.get(owner) instanceof Table standing
                && ddl.placesColumns()
            ? ColumnMoves.position(table, is.name(), standing)
            : Optional.empty();
    if (was.more(Column.GENERATED).isPresent()) {
      SchemaChange drop = new SchemaChange.DropPart(owner, was);
      changes.add(drop);
      disturbing.add(drop);
      changes.add(new SchemaChange.AddPart(owner, is, position));
      return;
    }
    Column free = was.withDefault(Optional.empty());
    if (isType(cause.target().kind())) {
      free = free.withType(TEXT);
      SchemaChange retyping = new SchemaChange.AlterPart(owner, was, free);
      disturbing.add(retyping);
    }
    free = free.dependingOn(withoutDropped(free, cause.target()));
    changes.add(new SchemaChange.AlterPart(owner, was, free));
    changes.add(new SchemaChange.AlterPart(owner, free, is));
  }

  private static boolean isType(Kind kind) {
    return kind == Kind.ENUM || kind == Kind.DOMAIN || kind == Kind.COMPOSITE || kind == Kind.RANGE;
  }

  private static List<Dependency> withoutDropped(Column column, ObjectId gone) {
    return column.dependsOn().stream().filter(one -> !one.target().equals(gone)).toList();
  }

  private Optional<Part> after(ObjectId owner, Part part) {
    return Optional.ofNullable(after.get(owner)).stream()
        .flatMap(object -> object.parts().stream())
        .filter(one -> one.kind() == part.kind() && one.name().equals(part.name()))
        .findFirst();
  }

  private static boolean drops(SchemaChange change, ObjectId owner, Part part) {
    return change instanceof SchemaChange.DropPart drop
        && drop.target().equals(owner)
        && drop.part().equals(part);
  }

  private static boolean alters(SchemaChange change, ObjectId owner, Part part) {
    return change instanceof SchemaChange.AlterPart alter
        && alter.target().equals(owner)
        && alter.before().kind() == part.kind()
        && alter.before().name().equals(part.name());
  }
}
