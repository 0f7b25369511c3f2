package org.wornladder.entity;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** A table that classes describe, while it is put together. Names are those that SQL writes. */
final class ModelTable {
  private final Name name;
  private final String where;
  private final Map<String, ModelColumn> columns = new LinkedHashMap<>();
  private final List<String> primaryKey = new ArrayList<>();
  private final List<Unique> uniques = new ArrayList<>();
  private final List<ModelIndex> indexes = new ArrayList<>();
  private final List<Reference> references = new ArrayList<>();
  private final List<String> checks = new ArrayList<>();

  /**
   * A table's name.
   *
   * @param schema empty for the session's own
   */
  record Name(String schema, String table) {
    /** Whether two names mean one table. */
    boolean isSame(Name other) {
      return Naming.plain(schema).equalsIgnoreCase(Naming.plain(other.schema))
          && Naming.plain(table).equalsIgnoreCase(Naming.plain(other.table));
    }
  }

  /** A unique constraint; its name may be empty. */
  record Unique(String name, List<String> columns) {}

  /**
   * An index.
   *
   * @param columns each with its direction behind it, if it has one
   */
  record ModelIndex(String name, List<String> columns, boolean unique) {}

  /** A foreign key; its name may be empty. */
  record Reference(String name, List<String> columns, Name target, List<String> targetColumns) {}

  /**
   * @param where the class that describes it
   */
  ModelTable(Name name, String where) {
    this.name = name;
    this.where = where;
  }

  Name name() {
    return name;
  }

  String where() {
    return where;
  }

  List<ModelColumn> columns() {
    return List.copyOf(columns.values());
  }

  Optional<ModelColumn> column(String column) {
    return Optional.ofNullable(columns.get(key(column)));
  }

  private static String key(String column) {
    return Naming.plain(column).toLowerCase(Locale.ROOT);
  }

  /**
   * Adds a column. Several attributes may share one, such as a reference whose column is part of
   * the key: then it must be there where one of them says so.
   */
  void add(ModelColumn column) {
    columns.merge(
        key(column.name()),
        column,
        (one, other) ->
            new ModelColumn(
                one.name(),
                one.type(),
                one.nullable() && other.nullable(),
                one.isIdentity() || other.isIdentity(),
                one.check().or(other::check)));
  }

  List<String> primaryKey() {
    return List.copyOf(primaryKey);
  }

  void addToKey(String column) {
    if (primaryKey.stream().noneMatch(one -> key(one).equals(key(column)))) {
      primaryKey.add(column);
      columns.computeIfPresent(key(column), (name, one) -> one.nullable(false));
    }
  }

  List<Unique> uniques() {
    return List.copyOf(uniques);
  }

  void addUnique(Unique unique) {
    boolean isThere =
        uniques.stream()
            .anyMatch(
                one ->
                    one.columns().stream()
                        .map(ModelTable::key)
                        .toList()
                        .equals(unique.columns().stream().map(ModelTable::key).toList()));
    if (!isThere) {
      uniques.add(unique);
    }
  }

  List<ModelIndex> indexes() {
    return List.copyOf(indexes);
  }

  void addIndex(ModelIndex index) {
    indexes.add(index);
  }

  List<Reference> references() {
    return List.copyOf(references);
  }

  void addReference(Reference reference) {
    references.add(reference);
  }

  List<String> checks() {
    return List.copyOf(checks);
  }

  void addCheck(String condition) {
    checks.add(condition);
  }
}
