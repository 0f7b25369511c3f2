package org.wornladder.schema;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;

/**
 * A table.
 *
 * @param columns in the table's own order
 * @param key its primary key
 * @param indexes by name, those among them that constraints made
 * @param options what is said of the table as a whole, by name, such as {@code comment} or {@code
 *     strict}
 * @param text the statement that made it; empty where the engine keeps none
 * @param dependsOn what it needs as a whole, such as the tables that it inherits from
 */
public record Table(
    ObjectId id,
    List<Column> columns,
    Optional<PrimaryKey> key,
    List<ForeignKey> foreignKeys,
    List<Constraint> constraints,
    List<Index> indexes,
    Map<String, String> options,
    String text,
    List<Dependency> dependsOn)
    implements DatabaseObject {
  /** The option that holds which rows a partition takes. */
  public static final String PARTITION_BOUND = "partition bound";

  private static final Comparator<Part> BY_KIND_AND_NAME =
      Comparator.comparing(Part::kind).thenComparing(Part::name);

  public Table {
    columns = List.copyOf(columns);
    foreignKeys = byKindAndName(foreignKeys);
    constraints = byKindAndName(constraints);
    indexes = byKindAndName(indexes);
    options = Facts.of(options);
    dependsOn = Dependency.sorted(dependsOn);
  }

  static Table of(
      ObjectId id,
      Map<String, String> facts,
      List<? extends Part> parts,
      List<Dependency> dependsOn) {
    return new Table(
        id,
        all(parts, Column.class),
        all(parts, PrimaryKey.class).stream().findFirst(),
        all(parts, ForeignKey.class),
        all(parts, Constraint.class),
        all(parts, Index.class),
        Facts.without(facts, Facts.TEXT),
        facts.getOrDefault(Facts.TEXT, ""),
        dependsOn);
  }

  private static <T extends Part> List<T> all(List<? extends Part> parts, Class<T> type) {
    return parts.stream().filter(type::isInstance).map(type::cast).toList();
  }

  /** The same with other columns and constraints. */
  public Table with(List<Column> otherColumns, List<Constraint> otherConstraints) {
    return new Table(
        id, otherColumns, key, foreignKeys, otherConstraints, indexes, options, text, dependsOn);
  }

  /** A column by its name; case does not count where only one is meant. */
  public Optional<Column> column(String wanted) {
    Optional<Column> exact =
        columns.stream().filter(column -> column.name().equals(wanted)).findFirst();
    List<Column> close =
        columns.stream().filter(column -> column.name().equalsIgnoreCase(wanted)).toList();
    return exact.isPresent() || close.size() != 1 ? exact : Optional.of(close.get(0));
  }

  /** The columns of the primary key, in key order; none if it has no primary key. */
  public List<String> primaryKey() {
    return key.map(PrimaryKey::columns).orElse(List.of());
  }

  /** One of {@link #options}. */
  public Optional<String> option(String word) {
    return Optional.ofNullable(options.get(word));
  }

  @Override
  public List<Part> parts() {
    List<Part> keys = new ArrayList<>();
    key.ifPresent(keys::add);
    keys.addAll(foreignKeys);
    keys.addAll(constraints);
    indexes.stream().filter(index -> !index.fromConstraint()).forEach(keys::add);
    List<Part> parts = new ArrayList<>(columns);
    parts.addAll(byKindAndName(keys));
    return List.copyOf(parts);
  }

  @Override
  public List<Part> storedParts() {
    List<Part> parts = new ArrayList<>(parts());
    indexes.stream().filter(Index::fromConstraint).forEach(parts::add);
    return parts;
  }

  /** Parts by kind and name. */
  static <T extends Part> List<T> byKindAndName(List<T> parts) {
    return parts.size() < 2 ? List.copyOf(parts) : parts.stream().sorted(BY_KIND_AND_NAME).toList();
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(options, Facts.TEXT, text);
  }
}
