package org.wornladder.change;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/**
 * Differences of columns that tables have from others: what is done to the column there is done to
 * it here.
 *
 * @param own what is left to be done, those that a parent settles in part without that part
 * @param originals the whole differences of those in {@code own} that a parent settles in part
 * @param settled those that a parent settles as a whole
 */
record InheritedDifferences(
    List<Difference> own, Map<Difference, Difference> originals, List<Difference> settled) {

  static InheritedDifferences of(List<Difference> differences, Snapshot before, Ddl ddl) {
    Map<ObjectId, DatabaseObject> objects = Differences.byId(before);
    Map<String, Difference> byName = new HashMap<>();
    differences.stream()
        .filter(one -> one.kind() == Kind.COLUMN)
        .forEach(one -> byName.put(one.fullName(), one));
    List<Difference> own = new ArrayList<>();
    List<Difference> settled = new ArrayList<>();
    Map<Difference, Difference> originals = new HashMap<>();
    for (Difference difference : differences) {
      List<Difference> origins = origins(difference, objects, byName, ddl);
      Optional<Difference> rest = rest(difference, origins);
      rest.ifPresent(
          left -> {
            own.add(left);
            originals.put(left, difference);
          });
      if (rest.isEmpty()) {
        settled.add(difference);
      }
    }
    return new InheritedDifferences(own, originals, settled);
  }

  /** The differences of the parents' column that are of the same sort. */
  private static List<Difference> origins(
      Difference difference,
      Map<ObjectId, DatabaseObject> objects,
      Map<String, Difference> byName,
      Ddl ddl) {
    boolean column = difference.kind() == Kind.COLUMN && difference.owner().isPresent();
    if (!column || !(objects.get(difference.owner().get()) instanceof Table table)) {
      return List.of();
    }
    return ddl.parents(table).stream()
        .map(parent -> new Difference(Optional.of(parent), difference.before(), difference.after()))
        .map(there -> Optional.ofNullable(byName.get(there.fullName())))
        .flatMap(Optional::stream)
        .filter(there -> there.change() == difference.change())
        .filter(there -> isWholly(difference, table) || isChange(difference))
        .toList();
  }

  private static boolean isChange(Difference difference) {
    return difference.change() == Difference.Change.CHANGED;
  }

  /** Whether the column comes from the parent and from nowhere else. */
  private static boolean isWholly(Difference difference, Table table) {
    return difference.either().fact("inherited").isPresent()
        || table.option(Table.PARTITION_BOUND).isPresent();
  }

  /** What is left when the differences that it comes from are settled; empty if nothing. */
  private static Optional<Difference> rest(Difference difference, List<Difference> origins) {
    if (origins.isEmpty()) {
      return Optional.of(difference);
    }
    if (!isChange(difference)) {
      return Optional.empty();
    }
    Part before = (Part) difference.before().orElseThrow();
    Map<String, String> facts = new TreeMap<>(before.facts());
    for (Difference.FactChange fact : difference.facts()) {
      if (origins.stream().anyMatch(there -> there.facts().contains(fact))) {
        facts.remove(fact.name());
        fact.after().ifPresent(value -> facts.put(fact.name(), value));
      }
    }
    Column then = (Column) before.withFacts(facts);
    Difference rest = new Difference(difference.owner(), Optional.of(then), difference.after());
    if (then.equals(before)) {
      return Optional.of(difference);
    }
    return rest.facts().isEmpty() ? Optional.empty() : Optional.of(rest);
  }
}
