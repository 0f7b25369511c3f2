package org.wornladder.scratch;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.schema.Column;
import org.wornladder.schema.Table;

/** Rows of a table with each value as a statement writes it. */
final class RowLiterals {
  private RowLiterals() {}

  /** The columns that have values of their own. */
  static List<Column> columns(Table table) {
    return table.columns().stream()
        .filter(column -> column.more(Column.GENERATED).isEmpty())
        .toList();
  }

  /**
   * Reads rows. Those of a partition are read with the whole table.
   *
   * @param clauses what stands behind the table's name in the query, such as WHERE and ORDER BY
   * @return for each row one literal for each of {@link #columns}; none if there are no such
   *     columns
   */
  static List<List<String>> read(EnvironmentContext context, Table table, String clauses)
      throws SQLException {
    List<Column> columns = columns(table);
    List<List<String>> rows = new ArrayList<>();
    if (columns.isEmpty() || table.option(Table.PARTITION_BOUND).isPresent()) {
      return rows;
    }
    String query =
        "SELECT "
            + columns.stream()
                .map(context.session().ddl()::literal)
                .collect(Collectors.joining(", "))
            + " FROM "
            + context.session().ddl().rowsOf(table)
            + clauses;
    try (Statement sql = context.session().connection().createStatement();
        ResultSet found = sql.executeQuery(query)) {
      while (found.next()) {
        List<String> row = new ArrayList<>();
        for (int i = 1; i <= columns.size(); i++) {
          row.add(Optional.ofNullable(found.getString(i)).orElse("NULL"));
        }
        rows.add(row);
      }
    }
    return rows;
  }
}
