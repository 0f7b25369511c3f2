package org.wornladder.scratch;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.schema.Column;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Quoting;

/**
 * The rows of a scratch database's tables at one moment, to be compared with those of another.
 *
 * @param tables for each table the values of its columns, row by row
 */
record RowCopy(Map<ObjectId, Map<String, List<String>>> tables) {
  /**
   * Reads them. Generated columns follow from the others, and are left out.
   *
   * @param structure what is there
   */
  static RowCopy of(EnvironmentContext context, Schema structure) throws SQLException {
    Map<String, Long> counts = context.session().rowCounts(structure);
    Map<ObjectId, Map<String, List<String>>> tables = new LinkedHashMap<>();
    for (Table table : structure.tables()) {
      boolean empty = counts.getOrDefault(table.name(), 1L) == 0;
      tables.put(table.id(), empty ? noRows(table) : rows(context, table));
    }
    return new RowCopy(tables);
  }

  private static Map<String, List<String>> noRows(Table table) {
    Map<String, List<String>> values = new LinkedHashMap<>();
    table.columns().stream()
        .filter(column -> column.more(Column.GENERATED).isEmpty())
        .forEach(column -> values.put(column.name(), new ArrayList<>()));
    return values;
  }

  private static Map<String, List<String>> rows(EnvironmentContext context, Table table)
      throws SQLException {
    Map<String, List<String>> values = noRows(table);
    List<String> columns = List.copyOf(values.keySet());
    Quoting quoting = context.engine().quoting();
    String query =
        "SELECT "
            + String.join(", ", columns.stream().map(quoting::name).toList())
            + " FROM "
            + (table.id().schema().isEmpty() ? "" : quoting.name(table.id().schema()) + ".")
            + quoting.name(table.id().name());
    if (columns.isEmpty()) {
      return values;
    }
    try (Statement sql = context.session().connection().createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        for (int i = 0; i < columns.size(); i++) {
          String text = rows.getString(i + 1);
          values
              .get(columns.get(i))
              .add(Optional.ofNullable(text).map(one -> "=" + one).orElse(""));
        }
      }
    }
    return values;
  }

  /** How many rows the tables of a name have. */
  long count(String name) {
    return tables.entrySet().stream()
        .filter(table -> table.getKey().name().equalsIgnoreCase(name))
        .flatMap(table -> table.getValue().values().stream().limit(1))
        .mapToLong(List::size)
        .sum();
  }

  /** The rows of other tables than some. */
  RowCopy without(Set<ObjectId> some) {
    Map<ObjectId, Map<String, List<String>>> others = new LinkedHashMap<>(tables);
    others.keySet().removeAll(some);
    return new RowCopy(others);
  }

  /**
   * In what another moment differs, where both have the table and the column.
   *
   * @param kept the structure in between: what it does not have cannot have been kept
   */
  List<String> differences(RowCopy later, Snapshot kept) {
    List<String> found = new ArrayList<>();
    tables.forEach(
        (id, columns) -> {
          Optional<Table> between = kept.object(id).map(Table.class::cast);
          if (between.isPresent() && later.tables.containsKey(id)) {
            List<String> common = new ArrayList<>(columns.keySet());
            common.removeIf(name -> between.get().column(name).isEmpty());
            common.retainAll(later.tables.get(id).keySet());
            if (!sorted(columns, common).equals(sorted(later.tables.get(id), common))) {
              found.add("rows of " + id.displayName() + " are other ones");
            }
          }
        });
    return found;
  }

  /** Whether a table's rows, of which there are some, are all there again later. */
  boolean areBack(ObjectId table, RowCopy later) {
    Map<String, List<String>> columns = tables.getOrDefault(table, Map.of());
    Map<String, List<String>> then = later.tables.getOrDefault(table, Map.of());
    List<String> names = List.copyOf(columns.keySet());
    return !names.isEmpty()
        && !columns.get(names.get(0)).isEmpty()
        && then.keySet().containsAll(names)
        && sorted(columns, names).equals(sorted(then, names));
  }

  /** The same for a column, of which some values are not NULL. */
  boolean areBack(ObjectId table, String column, RowCopy later) {
    return tables.getOrDefault(table, Map.of()).getOrDefault(column, List.of()).stream()
            .anyMatch(value -> !value.isEmpty())
        && areBack(table, later);
  }

  private static List<String> sorted(Map<String, List<String>> columns, List<String> names) {
    int count = names.isEmpty() ? 0 : columns.get(names.get(0)).size();
    List<String> rows = new ArrayList<>();
    for (int i = 0; i < count; i++) {
      List<String> row = new ArrayList<>();
      for (String name : names) {
        row.add(columns.get(name).get(i));
      }
      rows.add(row.toString());
    }
    rows.sort(null);
    return rows;
  }
}
