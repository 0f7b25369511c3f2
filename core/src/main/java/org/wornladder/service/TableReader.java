package org.wornladder.service;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.DatabaseReport;
import org.wornladder.ProjectException;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.project.Environment;
import org.wornladder.project.NearestWord;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Place;

/** Reads one table: its structure and its first rows. */
public final class TableReader {
  private final Session session;
  private final Engine engine;
  private final Environment environment;

  public TableReader(Session session, Engine engine, Environment environment) {
    this.session = session;
    this.engine = engine;
    this.environment = environment;
  }

  /**
   * @param rows how many rows at most; 0 for none
   * @throws ProjectException if there is no such table
   */
  public DatabaseReport.OfTable read(Schema schema, String name, int rows) throws SQLException {
    Table table =
        schema
            .table(name)
            .orElseThrow(
                () ->
                    ProjectException.of(
                        Place.of("environment " + environment.name()),
                        "there is no table '" + name + "'",
                        NearestWord.advice(
                            name, schema.tables().stream().map(Table::name).toList())));
    Schema alone = new Schema(List.of(table), List.of());
    Map<String, Long> counts = session.rowCounts(alone);
    return new DatabaseReport.OfTable(
        environment.name(),
        table,
        counts.getOrDefault(table.name(), 0L),
        table.columns().stream().map(Column::name).toList(),
        // The standard knows no query for no row (ISO/IEC 9075-2, "fetch first clause").
        rows == 0 ? List.of() : firstRows(table, rows));
  }

  /** By the primary key, so that the same rows come in the same order. */
  private String order(Table table) {
    List<String> key = table.primaryKey();
    return key.isEmpty() ? "" : " ORDER BY " + engine.quoting().names(key);
  }

  private List<List<Optional<String>>> firstRows(Table table, int rows) throws SQLException {
    List<String> columns = new ArrayList<>();
    table.columns().forEach(column -> columns.add(engine.quoting().name(column.name())));
    String query =
        "SELECT "
            + String.join(", ", columns)
            + " FROM "
            + session.quoted(table.name())
            + order(table)
            + session.atMost(rows);
    List<List<Optional<String>>> found = new ArrayList<>();
    try (Statement sql = session.connection().createStatement();
        ResultSet result = sql.executeQuery(query)) {
      while (result.next()) {
        List<Optional<String>> row = new ArrayList<>();
        for (int i = 1; i <= columns.size(); i++) {
          row.add(Optional.ofNullable(result.getString(i)));
        }
        found.add(row);
      }
    }
    return found;
  }
}
