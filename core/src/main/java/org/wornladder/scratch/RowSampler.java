package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.project.NearestWord;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.scratch.RowSample.Row;
import org.wornladder.sql.Place;
import org.wornladder.sql.Quoting;

/**
 * Reads a sample of a database's rows, all as they are at one moment: of each chosen table some
 * rows, and then whatever they point to, until no row points to one that is missing.
 */
public final class RowSampler {
  private static final int KEYS_A_QUERY = 100;

  private final EnvironmentContext context;
  private final Map<ObjectId, Table> tables = new LinkedHashMap<>();

  /** The rows of each table by their key, or by all of their values where there is none. */
  private final Map<ObjectId, Map<List<String>, Row>> found = new LinkedHashMap<>();

  private final Deque<Row> unfollowed = new ArrayDeque<>();
  private final Set<Reference> followed = new HashSet<>();

  /** Values that point to a row. */
  private record Reference(ObjectId target, List<String> columns, List<String> literals) {}

  /** Where a reference points to. */
  private record Target(ObjectId table, List<String> columns) {}

  /**
   * @param context of the environment, open for reading
   * @param structure what is there
   */
  public RowSampler(EnvironmentContext context, Schema structure) {
    this.context = context;
    TableOrder.parentsFirst(structure.tables()).forEach(table -> tables.put(table.id(), table));
  }

  /**
   * Reads it.
   *
   * @param patterns names of tables, with a star for any letters
   * @param most how many rows of each of these tables: half of them the first ones by its primary
   *     key, half the last ones
   * @throws ProjectException if a pattern names no table
   */
  public RowSample read(List<String> patterns, long most) throws SQLException {
    Set<Table> chosen = new LinkedHashSet<>();
    patterns.forEach(pattern -> chosen.addAll(named(pattern)));
    context.session().beginConsistentRead();
    try {
      for (Table table : chosen) {
        readSome(table, most);
      }
      followAll();
    } finally {
      context.session().rollback();
    }
    return new RowSample(targetsFirst());
  }

  private List<Table> named(String pattern) {
    Pattern glob = IgnoreFilter.glob(pattern.toLowerCase(Locale.ROOT));
    List<Table> named =
        tables.values().stream()
            .filter(table -> isNamed(glob, table.name()) || isNamed(glob, table.id().displayName()))
            // Their rows are those of the whole table.
            .filter(table -> table.option(Table.PARTITION_BOUND).isEmpty())
            .toList();
    if (named.isEmpty()) {
      throw ProjectException.of(
          Place.of("environment " + context.environment().name()),
          "there is no table '" + pattern + "' to copy rows of",
          NearestWord.advice(pattern, tables.values().stream().map(Table::name).toList()));
    }
    return named;
  }

  private static boolean isNamed(Pattern glob, String name) {
    return glob.matcher(name.toLowerCase(Locale.ROOT)).matches();
  }

  private void readSome(Table table, long most) throws SQLException {
    if (table.primaryKey().isEmpty()) {
      read(table, "", " LIMIT " + most);
      return;
    }
    read(table, "", order(table, "") + " LIMIT " + (most + 1) / 2);
    if (most > 1) {
      read(table, "", order(table, " DESC") + " LIMIT " + most / 2);
    }
  }

  private String order(Table table, String direction) {
    return table.primaryKey().stream()
        .map(name -> quoting().name(name) + direction)
        .collect(Collectors.joining(", ", " ORDER BY ", ""));
  }

  private void read(Table table, String where, String rest) throws SQLException {
    List<String> names = RowLiterals.columns(table).stream().map(Column::name).toList();
    for (List<String> literals : RowLiterals.read(context, table, where + rest)) {
      keep(table, new Row(table.id(), names, literals));
    }
  }

  private void keep(Table table, Row row) {
    List<String> key =
        table.primaryKey().isEmpty()
            ? row.literals()
            : values(row, table.primaryKey()).orElse(row.literals());
    Row known =
        found.computeIfAbsent(table.id(), id -> new LinkedHashMap<>()).putIfAbsent(key, row);
    if (known == null) {
      unfollowed.add(row);
    }
  }

  /** The values of some columns; empty if one of them is NULL, or is not known. */
  private static Optional<List<String>> values(Row row, List<String> columns) {
    List<String> values = new ArrayList<>();
    for (String column : columns) {
      int place = row.columns().indexOf(column);
      if (place < 0 || row.literals().get(place).equals("NULL")) {
        return Optional.empty();
      }
      values.add(row.literals().get(place));
    }
    return Optional.of(values);
  }

  private void followAll() throws SQLException {
    while (!unfollowed.isEmpty()) {
      Map<Target, List<List<String>>> wanted = new LinkedHashMap<>();
      while (!unfollowed.isEmpty()) {
        for (Reference reference : references(unfollowed.remove())) {
          if (followed.add(reference)) {
            wanted
                .computeIfAbsent(
                    new Target(reference.target(), reference.columns()), key -> new ArrayList<>())
                .add(reference.literals());
          }
        }
      }
      for (Map.Entry<Target, List<List<String>>> one : wanted.entrySet()) {
        readTargets(one.getKey(), one.getValue());
      }
    }
  }

  private List<Reference> references(Row row) {
    List<Reference> references = new ArrayList<>();
    for (ForeignKey key : tables.get(row.table()).foreignKeys()) {
      Optional<Table> target = Optional.ofNullable(tables.get(key.target()));
      Optional<List<String>> values = values(row, key.columns());
      if (target.isPresent() && values.isPresent()) {
        List<String> columns =
            key.targetColumns().isEmpty() ? target.get().primaryKey() : key.targetColumns();
        references.add(new Reference(key.target(), columns, values.get()));
      }
    }
    return references;
  }

  private void readTargets(Target target, List<List<String>> keys) throws SQLException {
    Table table = tables.get(target.table());
    for (int from = 0; from < keys.size(); from += KEYS_A_QUERY) {
      String where =
          keys.subList(from, Math.min(keys.size(), from + KEYS_A_QUERY)).stream()
              .map(key -> "(" + equal(table, target.columns(), key) + ")")
              .collect(Collectors.joining(" OR ", " WHERE ", ""));
      read(table, where, "");
    }
  }

  private String equal(Table table, List<String> columns, List<String> literals) {
    List<String> parts = new ArrayList<>();
    for (int i = 0; i < columns.size(); i++) {
      Column column = table.column(columns.get(i)).orElseThrow();
      parts.add(
          context
              .session()
              .staging()
              .equal(column, quoting().name(column.name()), literals.get(i)));
    }
    return String.join(" AND ", parts);
  }

  private Quoting quoting() {
    return context.engine().quoting();
  }

  /** The rows, each behind those that it points to. */
  private List<Row> targetsFirst() {
    Map<Target, Map<List<String>, Row>> byKey = new HashMap<>();
    Set<Row> ordered = new LinkedHashSet<>();
    for (ObjectId table : tables.keySet()) {
      for (Row row : found.getOrDefault(table, Map.of()).values()) {
        add(row, ordered, new HashSet<>(), byKey);
      }
    }
    return List.copyOf(ordered);
  }

  /** Without recursion: a chain of rows may be as long as its table. */
  private void add(
      Row first, Set<Row> ordered, Set<Row> begun, Map<Target, Map<List<String>, Row>> byKey) {
    Deque<Row> open = new ArrayDeque<>(List.of(first));
    while (!open.isEmpty()) {
      Row row = open.peek();
      if (begun.add(row)) {
        for (Reference reference : references(row)) {
          Optional<Row> target = target(reference, byKey);
          target
              .filter(one -> !begun.contains(one) && !ordered.contains(one))
              .ifPresent(open::push);
        }
      } else {
        ordered.add(open.pop());
      }
    }
  }

  private Optional<Row> target(Reference reference, Map<Target, Map<List<String>, Row>> byKey) {
    Target target = new Target(reference.target(), reference.columns());
    Map<List<String>, Row> rows =
        byKey.computeIfAbsent(
            target,
            key -> {
              Map<List<String>, Row> made = new HashMap<>();
              found
                  .getOrDefault(key.table(), Map.of())
                  .values()
                  .forEach(row -> values(row, key.columns()).ifPresent(one -> made.put(one, row)));
              return made;
            });
    return Optional.ofNullable(rows.get(reference.literals()));
  }
}
