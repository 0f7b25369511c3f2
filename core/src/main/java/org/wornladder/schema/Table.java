package org.wornladder.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * A table.
 *
 * @param columns in the table's own order
 * @param primaryKey its columns in key order; empty if it has none
 * @param keyMore what else is said of the primary key, by name: {@code name} if one was chosen,
 *     {@code definition} if it is more than its columns
 * @param indexes by name
 * @param options what is said of the table as a whole, by name, such as {@code comment} or {@code
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
  /** The option that holds which rows a partition takes. */
  public static final String PARTITION_BOUND = "partition bound";

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

  /** The same with other texts in its definition. */
  Table map(UnaryOperator<String> texts) {
    return new Table(
        name,
        columns.stream().map(column -> column.map(texts)).toList(),
        primaryKey,
        Facts.map(keyMore, texts),
        foreignKeys,
        constraints.stream().map(constraint -> constraint.map(texts)).toList(),
        indexes.stream().map(index -> index.map(texts)).toList(),
        Facts.map(options, texts),
        texts.apply(definition));
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
    parts.addAll(withDistinctNames(keys));
    return new Element(Kind.TABLE, name, Facts.with(options, Element.TEXT, definition), parts);
  }

  /** Elements of equal kind and name get numbers. */
  private static List<Element> withDistinctNames(List<Element> sorted) {
    List<Element> distinct = new ArrayList<>();
    int count = 0;
    for (int i = 0; i < sorted.size(); i++) {
      Element element = sorted.get(i);
      count = i > 0 && Snapshot.ORDER.compare(sorted.get(i - 1), element) == 0 ? count + 1 : 1;
      distinct.add(count == 1 ? element : numbered(element, count));
    }
    return distinct;
  }

  private static Element numbered(Element element, int number) {
    String name = element.name() + " #" + number;
    return new Element(element.kind(), name, element.facts(), element.parts());
  }
}
