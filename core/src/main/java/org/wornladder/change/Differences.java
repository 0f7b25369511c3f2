package org.wornladder.change;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Described;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;

/** What two structures differ in. */
public final class Differences {
  /** The fact that two tables have the same columns in another order. */
  static final String COLUMN_ORDER = "column order";

  private static final List<String> ORDER_ALONE = List.of(COLUMN_ORDER);

  private final List<Difference> found = new ArrayList<>();

  private Differences() {}

  /** By kind and name; the parts of a table behind it. Owners and grants are left out. */
  public static List<Difference> between(Snapshot before, Snapshot after) {
    return before == after ? List.of() : withRights(before.withoutRights(), after.withoutRights());
  }

  /** The same with owners and grants. */
  public static List<Difference> withRights(Snapshot before, Snapshot after) {
    Differences differences = new Differences();
    differences.compare(before, after);
    return List.copyOf(differences.found);
  }

  /** What two objects of one identity differ in, their parts included. */
  static List<Difference> between(DatabaseObject before, DatabaseObject after) {
    Differences differences = new Differences();
    differences.both(before, after);
    return List.copyOf(differences.found);
  }

  /** Those that are more than another order of a table's columns. */
  public static List<Difference> butForOrder(List<Difference> differences) {
    return differences.stream()
        .filter(
            one ->
                !one.facts().stream().map(Difference.FactChange::name).toList().equals(ORDER_ALONE))
        .toList();
  }

  private void compare(Snapshot before, Snapshot after) {
    Map<ObjectId, DatabaseObject> was = byId(before);
    Map<ObjectId, DatabaseObject> is = byId(after);
    Set<ObjectId> all = new TreeSet<>(was.keySet());
    all.addAll(is.keySet());
    for (ObjectId id : all) {
      Optional<DatabaseObject> old = Optional.ofNullable(was.get(id));
      Optional<DatabaseObject> now = Optional.ofNullable(is.get(id));
      if (old.isPresent() && now.isPresent()) {
        both(old.get(), now.get());
      } else {
        found.add(Difference.of(old, now));
      }
    }
  }

  static Map<ObjectId, DatabaseObject> byId(Snapshot snapshot) {
    Map<ObjectId, DatabaseObject> map = new LinkedHashMap<>();
    snapshot.objects().forEach(object -> map.put(object.id(), object));
    return map;
  }

  private void both(DatabaseObject before, DatabaseObject after) {
    if (before.equals(after)) {
      return;
    }
    Difference difference =
        Difference.of(Optional.of(withOrder(before, after)), Optional.of(withOrder(after, before)));
    if (!difference.facts().isEmpty()) {
      found.add(difference);
    }
    parts(before.id(), before.parts(), after.parts());
  }

  private void parts(ObjectId owner, List<Part> before, List<Part> after) {
    Map<PartKey, Part> was = PartKey.of(before);
    Map<PartKey, Part> is = PartKey.of(after);
    Set<PartKey> same = sameUnnamed(was, is);
    for (PartKey key : inOrder(was.keySet(), is.keySet())) {
      if (!same.contains(key)) {
        Difference difference =
            new Difference(
                Optional.of(owner),
                Optional.ofNullable(was.get(key)),
                Optional.ofNullable(is.get(key)));
        if (difference.change() != Difference.Change.CHANGED || !difference.facts().isEmpty()) {
          found.add(difference);
        }
      }
    }
  }

  /** By kind, then in the order of what is there, then of what was. */
  private static List<PartKey> inOrder(Set<PartKey> was, Set<PartKey> is) {
    Set<PartKey> all = new LinkedHashSet<>(is);
    all.addAll(was);
    List<PartKey> sorted = new ArrayList<>(all);
    sorted.sort(
        Comparator.comparing(PartKey::kind)
            .thenComparing(PartKey::name)
            .thenComparing(PartKey::number));
    return sorted;
  }

  /**
   * The indexes of both sides that differ in nothing but names which the engine invented: after
   * those of a table or a column that had another name then.
   */
  private static Set<PartKey> sameUnnamed(Map<PartKey, Part> was, Map<PartKey, Part> is) {
    Set<PartKey> same = new HashSet<>();
    was.forEach(
        (key, before) -> {
          if (isUnnamedIndex(before) && !is.containsKey(key)) {
            is.entrySet().stream()
                .filter(after -> isUnnamedIndex(after.getValue()))
                .filter(after -> !was.containsKey(after.getKey()))
                .filter(after -> !same.contains(after.getKey()))
                .filter(after -> after.getValue().meaning().equals(before.meaning()))
                .findFirst()
                .ifPresent(after -> same.addAll(List.of(key, after.getKey())));
          }
        });
    return same;
  }

  private static boolean isUnnamedIndex(Described one) {
    return one instanceof Index index && index.unnamed();
  }

  /**
   * With the order of the columns that both sides have as a fact, which differs if the order does.
   */
  private static DatabaseObject withOrder(DatabaseObject object, DatabaseObject other) {
    if (object.kind() != Kind.TABLE) {
      return object;
    }
    List<String> common = columns(object);
    common.retainAll(columns(other));
    List<String> theirs = columns(other);
    theirs.retainAll(common);
    if (common.equals(theirs)) {
      return object;
    }
    Map<String, String> facts = new TreeMap<>(object.facts());
    facts.put(COLUMN_ORDER, String.join(", ", common));
    return object.with(facts, object.storedParts());
  }

  private static List<String> columns(DatabaseObject table) {
    List<String> names = new ArrayList<>();
    for (Part part : table.parts()) {
      if (part.kind() == Kind.COLUMN) {
        names.add(part.name());
      }
    }
    return names;
  }
}
