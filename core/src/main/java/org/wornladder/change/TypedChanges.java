package org.wornladder.change;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.wornladder.change.Alteration.How;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/** Differences as changes that the engine can make, and those that it cannot. */
final class TypedChanges {
  private final Ddl ddl;
  private final Map<ObjectId, DatabaseObject> before;
  private final Map<ObjectId, DatabaseObject> wanted;
  private final List<SchemaChange> changes = new ArrayList<>();
  private final List<Difference> written = new ArrayList<>();
  private final List<LeftOut> leftOut = new ArrayList<>();
  private final Map<ObjectId, List<Difference>> rebuilt = new LinkedHashMap<>();

  /** The differences of which some are the rest, which others settle in part. */
  private final Map<Difference, List<Difference>> wholes = new HashMap<>();

  private TypedChanges(Ddl ddl, Snapshot before, Snapshot wanted) {
    this.ddl = ddl;
    this.before = Differences.byId(before);
    this.wanted = Differences.byId(wanted);
  }

  /**
   * The changes, in no order yet.
   *
   * @param before the whole structure before them
   * @param wanted the whole structure that the differences lead to, if all of them are taken
   * @param oneDatabase whether both structures are of one database, so that its numbers identify
   *     what was renamed
   */
  static TypedChanges of(
      List<Difference> differences,
      Snapshot before,
      Snapshot wanted,
      Ddl ddl,
      boolean oneDatabase) {
    TypedChanges typed = new TypedChanges(ddl, before, wanted);
    List<Difference> left = new ArrayList<>(differences);
    if (oneDatabase) {
      typed.renamedTables(left);
      typed.renamedColumns(left);
    }
    InheritedDifferences inherited = InheritedDifferences.of(left, before, ddl);
    typed.written.addAll(inherited.settled());
    inherited.originals().forEach((rest, whole) -> typed.wholes.putIfAbsent(rest, List.of(whole)));
    Map<ObjectId, List<Difference>> byObject = new LinkedHashMap<>();
    for (Difference difference : inherited.own()) {
      byObject.computeIfAbsent(target(difference), id -> new ArrayList<>()).add(difference);
    }
    byObject.values().forEach(typed::take);
    typed.rebuild();
    return typed;
  }

  List<SchemaChange> changes() {
    return changes;
  }

  List<Difference> written() {
    return written;
  }

  List<LeftOut> leftOut() {
    return leftOut;
  }

  private static ObjectId target(Difference difference) {
    return difference.owner().orElseGet(() -> ((DatabaseObject) difference.either()).id());
  }

  /** A table that goes and one that comes with the same number are one table. */
  private void renamedTables(List<Difference> left) {
    Map<String, Difference> gone = new HashMap<>();
    left.stream()
        .filter(one -> one.change() == Difference.Change.REMOVED)
        .filter(one -> one.either() instanceof Table)
        .forEach(one -> number(one).ifPresent(number -> gone.put(number, one)));
    for (Difference coming : List.copyOf(left)) {
      if (coming.change() == Difference.Change.ADDED
          && coming.either() instanceof Table now
          && number(coming).map(gone::get).isPresent()) {
        Difference going = gone.get(number(coming).orElseThrow());
        Table was = (Table) going.either();
        if (was.id().schema().equals(now.id().schema())) {
          left.removeAll(List.of(going, coming));
          // What is said of its parts is found out anew, under the new name.
          left.removeIf(one -> isPartOf(one, was.id()) || isPartOf(one, now.id()));
          written.addAll(List.of(going, coming));
          changes.add(new SchemaChange.RenameTable(was.id(), now.id()));
          Table renamed = renamed(was, now.id());
          before.put(now.id(), renamed);
          left.addAll(Differences.between(renamed, now));
        }
      }
    }
  }

  private static boolean isPartOf(Difference difference, ObjectId table) {
    return difference.owner().filter(table::equals).isPresent();
  }

  private static Table renamed(Table table, ObjectId id) {
    return (Table) DatabaseObject.of(id, table.facts(), table.storedParts(), table.dependsOn());
  }

  private static Optional<String> number(Difference difference) {
    return difference.either().fact(Facts.NUMBER);
  }

  /** A column that goes and one that comes with the same number are one column. */
  private void renamedColumns(List<Difference> left) {
    for (Difference going : List.copyOf(left)) {
      if (going.change() == Difference.Change.REMOVED
          && going.either() instanceof Column was
          && sameTable(going.owner().orElseThrow())) {
        left.stream()
            .filter(one -> one.change() == Difference.Change.ADDED)
            .filter(one -> one.owner().equals(going.owner()) && one.either() instanceof Column)
            .filter(one -> number(one).isPresent() && number(one).equals(number(going)))
            .findFirst()
            .ifPresent(coming -> renamed(left, going, was, coming));
      }
    }
  }

  private boolean sameTable(ObjectId id) {
    Optional<String> was =
        Optional.ofNullable(before.get(id)).flatMap(one -> one.fact(Facts.NUMBER));
    Optional<String> is =
        Optional.ofNullable(wanted.get(id)).flatMap(one -> one.fact(Facts.NUMBER));
    return was.isPresent() && was.equals(is);
  }

  private void renamed(List<Difference> left, Difference going, Column was, Difference coming) {
    ObjectId table = going.owner().orElseThrow();
    Column now = (Column) coming.either();
    left.removeAll(List.of(going, coming));
    written.addAll(List.of(going, coming));
    changes.add(new SchemaChange.RenameColumn(table, was.name(), now.name()));
    Difference rest =
        new Difference(going.owner(), Optional.of(was.named(now.name())), Optional.of(now));
    if (!rest.facts().isEmpty()) {
      left.add(rest);
      wholes.put(rest, List.of());
    }
  }

  /** The differences of one object. */
  private void take(List<Difference> unordered) {
    List<Difference> differences = inPlace(unordered);
    List<SchemaChange> possible = new ArrayList<>();
    List<Difference> settled = new ArrayList<>();
    boolean rebuilds = false;
    for (Difference difference : differences) {
      for (SchemaChange change : typed(difference)) {
        Alteration alteration = ddl.alteration(change);
        if (alteration.how() == How.NOT_POSSIBLE) {
          leftOut.add(new LeftOut(difference, alteration.reason()));
          continue;
        }
        settled.add(difference);
        rebuilds |= alteration.how() == How.REBUILD;
        possible.addAll(alteration.how() == How.RECREATE ? recreation(change) : List.of(change));
      }
    }
    written.addAll(settled.stream().distinct().flatMap(this::whole).distinct().toList());
    if (rebuilds) {
      rebuilt.put(target(differences.get(0)), settled);
    } else {
      changes.addAll(withoutPartsOfRecreated(possible));
    }
  }

  /** An object that is created anew has its new parts then. */
  private static List<SchemaChange> withoutPartsOfRecreated(List<SchemaChange> all) {
    return all.stream().anyMatch(SchemaChange.Create.class::isInstance)
        ? all.stream()
            .filter(
                change ->
                    change instanceof SchemaChange.Create || change instanceof SchemaChange.Drop)
            .toList()
        : all;
  }

  private Stream<Difference> whole(Difference difference) {
    return wholes.getOrDefault(difference, List.of(difference)).stream();
  }

  /** New columns in the order in which the wanted table has them. */
  private List<Difference> inPlace(List<Difference> differences) {
    if (!(wanted.get(target(differences.get(0))) instanceof Table table)) {
      return differences;
    }
    List<String> names = table.columns().stream().map(Column::name).toList();
    List<Difference> sorted = new ArrayList<>(differences);
    sorted.sort(
        (one, other) ->
            one.either() instanceof Column && other.either() instanceof Column
                ? Integer.compare(names.indexOf(one.name()), names.indexOf(other.name()))
                : one.kind().compareTo(other.kind()));
    return sorted;
  }

  static List<SchemaChange> recreation(SchemaChange change) {
    if (change instanceof SchemaChange.Alter alter) {
      return List.of(new SchemaChange.Drop(alter.before()), new SchemaChange.Create(alter.after()));
    }
    if (change instanceof SchemaChange.AlterPart alter) {
      return List.of(
          new SchemaChange.DropPart(alter.target(), alter.before()),
          new SchemaChange.AddPart(alter.target(), alter.after(), alter.position()));
    }
    return List.of(change);
  }

  private List<SchemaChange> typed(Difference difference) {
    if (difference.owner().isPresent()) {
      return List.of(ofPart(difference.owner().get(), difference));
    }
    Optional<DatabaseObject> was = difference.before().map(DatabaseObject.class::cast);
    Optional<DatabaseObject> is = difference.after().map(DatabaseObject.class::cast);
    if (is.isEmpty()) {
      return List.of(new SchemaChange.Drop(was.orElseThrow()));
    }
    if (was.isEmpty()) {
      return List.of(new SchemaChange.Create(is.get()));
    }
    return was.get() instanceof Table one && is.get() instanceof Table other
        ? ofTable(difference, one, other)
        : List.of(new SchemaChange.Alter(was.get(), is.get()));
  }

  /** What is said of a table as a whole, and the order of its columns. */
  private List<SchemaChange> ofTable(Difference difference, Table was, Table is) {
    List<SchemaChange> changes = new ArrayList<>();
    List<String> facts = difference.facts().stream().map(Difference.FactChange::name).toList();
    boolean turned = facts.contains(Differences.COLUMN_ORDER);
    if (!turned || facts.size() > 1) {
      changes.add(new SchemaChange.Alter(without(was), without(is)));
    }
    if (turned && ddl.placesColumns()) {
      changes.addAll(ColumnMoves.between(was, is));
    } else if (turned) {
      changes.add(new SchemaChange.Alter(was, is));
    }
    return changes;
  }

  private static DatabaseObject without(Table table) {
    Map<String, String> facts = new TreeMap<>(table.facts());
    facts.remove(Differences.COLUMN_ORDER);
    return table.with(facts, table.storedParts());
  }

  private SchemaChange ofPart(ObjectId owner, Difference difference) {
    Optional<Part> was = difference.before().map(Part.class::cast);
    Optional<Part> is = difference.after().map(Part.class::cast);
    if (is.isEmpty()) {
      return new SchemaChange.DropPart(owner, was.orElseThrow());
    }
    if (was.isPresent()) {
      return new SchemaChange.AlterPart(owner, was.get(), is.get());
    }
    return new SchemaChange.AddPart(owner, is.get(), position(owner, is.get()));
  }

  /** The place of a new column among those of the wanted table; empty if it comes last. */
  private Optional<SchemaChange.Position> position(ObjectId owner, Part part) {
    return part instanceof Column
            && wanted.get(owner) instanceof Table table
            && before.get(owner) instanceof Table standing
        ? ColumnMoves.position(table, part.name(), standing)
        : Optional.empty();
  }

  /** Tables that the engine can only make anew take all of their differences at once. */
  private void rebuild() {
    rebuilt.forEach(
        (id, differences) -> {
          Table was = (Table) before.get(id);
          Snapshot accepted = Accepted.in(new Snapshot(List.of(was)), differences);
          Table is = inOrder((Table) accepted.object(id).orElseThrow());
          Table whole =
              wanted.get(id) instanceof Table table && table.means(is) ? table : plain(is);
          changes.add(new SchemaChange.Rebuild(was, whole));
        });
  }

  /** A table with its columns in the wanted order. */
  private Table inOrder(Table table) {
    if (!(wanted.get(table.id()) instanceof Table goal)) {
      return table;
    }
    List<String> names = goal.columns().stream().map(Column::name).toList();
    List<Part> parts = new ArrayList<>(table.columns());
    parts.sort(Comparator.comparingInt(column -> names.indexOf(column.name())));
    table.storedParts().stream().filter(part -> !(part instanceof Column)).forEach(parts::add);
    return (Table) table.with(table.facts(), parts);
  }

  /** A table that no text describes any more. */
  static Table plain(Table table) {
    Map<String, String> facts = new TreeMap<>(table.facts());
    facts.remove(Facts.TEXT);
    return (Table) table.with(facts, table.storedParts());
  }
}
