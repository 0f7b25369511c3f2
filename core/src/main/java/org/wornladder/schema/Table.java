package org.wornladder.schema;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A table.
 *
 * @param columns in the table's own order
 * @param primaryKey its columns in key order; empty if it has none
 * @param keyMore what else is said of the primary key, by word: {@code name} if one was chosen,
 *     {@code definition} if it is more than its columns
 * @param indexes by name
 * @param options what is said of the table as a whole, by word, such as {@code comment} or {@code
 *     strict}
 * @param definition the engine's own statement for it; empty where the engine keeps none
 */
public record Table(
    String name,
    List<Column> columns,
    List<String> primaryKey,
    Map<String, String> keyMore,
    List<ForeignKey> foreignKeys,
    List<Constraint> constraints,
    List<Index> indexes,
    Map<String, String> options,
    String definition) {
  public Table {
    columns = List.copyOf(columns);
    primaryKey = List.copyOf(primaryKey);
    keyMore = Facts.of(keyMore);
    foreignKeys = List.copyOf(foreignKeys);
    constraints = List.copyOf(constraints);
    indexes = List.copyOf(indexes);
    options = Facts.of(options);
  }

  /** A column by its name; case does not count where only one is meant. */
  public Optional<Column> column(String wanted) {
    Optional<Column> exact =
        columns.stream().filter(column -> column.name().equals(wanted)).findFirst();
    List<Column> close =
        columns.stream().filter(column -> column.name().equalsIgnoreCase(wanted)).toList();
    return exact.isPresent() || close.size() != 1 ? exact : Optional.of(close.get(0));
  }

  Element element() {
    List<Element> keys = new ArrayList<>();
    if (!primaryKey.isEmpty()) {
      String words = "(" + NameList.write(primaryKey) + ")";
      keys.add(new Element(Kind.PRIMARY_KEY, words, keyMore, List.of()));
    }
    foreignKeys.forEach(key -> keys.add(key.element()));
    constraints.forEach(constraint -> keys.add(constraint.element()));
    for (Index index : indexes) {
      if (!index.fromConstraint()) {
        keys.add(index.element());
      }
    }
    keys.sort(Snapshot.ORDER);
    List<Element> parts = new ArrayList<>();
    columns.forEach(column -> parts.add(column.element()));
    parts.addAll(told(keys));
    Map<String, String> facts = new TreeMap<>(options);
    facts.put(Element.TEXT, definition);
    return new Element(Kind.TABLE, name, facts, parts);
  }

  /** Several that are made of the same are told by their place. */
  private static List<Element> told(List<Element> sorted) {
    List<Element> told = new ArrayList<>();
    Map<Element.Key, Integer> seen = new HashMap<>();
    for (Element element : sorted) {
      int count = seen.merge(element.key(), 1, Integer::sum);
      String numbered = element.name() + " #" + count;
      told.add(
          count == 1
              ? element
              : new Element(element.kind(), numbered, element.facts(), element.parts()));
    }
    return told;
  }
}
