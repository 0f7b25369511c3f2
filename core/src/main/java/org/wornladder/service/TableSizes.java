package org.wornladder.service;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;
import org.wornladder.RehearsalReport.OfRung;
import org.wornladder.RehearsalReport.OfStatement;
import org.wornladder.RehearsalReport.Size;
import org.wornladder.RehearsalReport.WholeTable;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/** How large the tables of an environment are that rehearsed statements read or write whole. */
final class TableSizes {
  /** With fewer rows, the time is that of the statement itself. */
  private static final long FEWEST_ROWS = 1_000;

  /** Rows and bytes of a table, by its name in lower case. */
  private final Map<String, Size> sizes = new LinkedHashMap<>();

  private TableSizes() {}

  /** The names of the tables that matter. */
  static Set<String> names(List<OfRung> rungs) {
    Set<String> names = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
    rungs.forEach(
        rung ->
            rung.statements()
                .forEach(statement -> statement.whole().forEach(one -> names.add(one.name()))));
    return names;
  }

  /** Asks the environment. */
  static TableSizes of(EnvironmentContext context, Set<String> names) throws SQLException {
    TableSizes sizes = new TableSizes();
    List<Table> tables =
        context.structure().tables().stream()
            .filter(table -> names.contains(table.name()))
            .toList();
    Map<String, Long> rows = context.session().rowCounts(new Schema(tables, List.of()));
    for (Table table : tables) {
      Optional<String> query = context.session().ddl().size(table.id());
      sizes.sizes.put(
          table.name(),
          new Size(
              rows.getOrDefault(table.name(), 0L),
              query.isPresent() ? bytes(context, query.get()) : OptionalLong.empty(),
              OptionalLong.empty()));
    }
    return sizes;
  }

  private static OptionalLong bytes(EnvironmentContext context, String query) throws SQLException {
    try (Statement sql = context.session().connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      return row.next() ? OptionalLong.of(row.getLong(1)) : OptionalLong.empty();
    }
  }

  /** The same rungs with the sizes. */
  List<OfRung> in(List<OfRung> rungs) {
    return rungs.stream().map(rung -> rung.with(statements(rung.statements()))).toList();
  }

  private List<OfStatement> statements(List<OfStatement> statements) {
    List<OfStatement> sized = new ArrayList<>();
    for (OfStatement statement : statements) {
      sized.add(
          new OfStatement(
              statement.line(),
              statement.text(),
              statement.millis(),
              statement.effects(),
              statement.whole().stream().map(one -> sized(one, statement.millis())).toList()));
    }
    return sized;
  }

  private WholeTable sized(WholeTable table, double millis) {
    return new WholeTable(
        table.name(),
        table.rows(),
        sizes.entrySet().stream()
            .filter(size -> size.getKey().equalsIgnoreCase(table.name()))
            .findFirst()
            .map(size -> estimated(size.getValue(), table.rows(), millis)));
  }

  /** What a statement takes grows with the rows, as far as one knows. */
  private static Size estimated(Size size, long tried, double millis) {
    return new Size(
        size.rows(),
        size.bytes(),
        tried >= FEWEST_ROWS && millis > 0
            ? OptionalLong.of(Math.round(millis * size.rows() / tried))
            : OptionalLong.empty());
  }
}
