package org.wornladder.engine.mariadb;

import java.io.ByteArrayInputStream;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.ProjectException;
import org.wornladder.engine.BulkRows;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StagingTable;
import org.wornladder.engine.ValueKind;
import org.wornladder.project.SeedRows;

/**
 * Loads rows by LOAD DATA LOCAL INFILE, some at a time. Errors in values are warnings there, so the
 * first warning is turned into an error again.
 */
final class MariadbLoad {
  private static final Pattern ROW = Pattern.compile(" at row (\\d+)");

  private final Session session;
  private final StagingTable stage;
  private final MariadbStaging staging;

  MariadbLoad(Session session, StagingTable stage, MariadbStaging staging) {
    this.session = session;
    this.stage = stage;
    this.staging = staging;
  }

  void load(SeedRows rows) throws SQLException {
    List<ValueKind> kinds =
        stage.columns().stream().map(part -> staging.kind(part.column())).toList();
    String load = text(kinds);
    try (org.mariadb.jdbc.Statement sql =
        session.connection().createStatement().unwrap(org.mariadb.jdbc.Statement.class)) {
      long[] loaded = {0};
      new BulkRows(
              rows,
              kinds,
              MariadbStaging::written,
              (bytes, length) -> {
                sql.setLocalInfileInputStream(new ByteArrayInputStream(bytes, 0, length));
                long count = sql.executeLargeUpdate(load);
                refuseWarning(sql, rows, loaded[0]);
                loaded[0] += count;
              })
          .writeAll();
    }
  }

  private String text(List<ValueKind> kinds) {
    List<String> columns = new ArrayList<>(List.of(Staging.LINE));
    List<String> set = new ArrayList<>();
    for (int i = 0; i < kinds.size(); i++) {
      String name = staging.name(stage.columns().get(i).name());
      boolean binary = kinds.get(i) == ValueKind.BINARY;
      columns.add(binary ? "@ladder_" + i : name);
      if (binary) {
        set.add(name + " = unhex(@ladder_" + i + ")");
      }
    }
    return "LOAD DATA LOCAL INFILE 'rows' INTO TABLE "
        + staging.staged(stage)
        + " CHARACTER SET utf8mb4 FIELDS TERMINATED BY '\\t' ESCAPED BY '\\\\'"
        + " LINES TERMINATED BY '\\n' ("
        + String.join(", ", columns)
        + ")"
        + (set.isEmpty() ? "" : " SET " + String.join(", ", set));
  }

  /**
   * @param before how many rows were loaded by earlier statements
   */
  private static void refuseWarning(java.sql.Statement sql, SeedRows rows, long before)
      throws SQLException {
    Optional<String> first = Optional.empty();
    try (ResultSet warnings = sql.executeQuery("SHOW WARNINGS LIMIT 1")) {
      if (warnings.next()) {
        first = Optional.of(warnings.getString(3));
      }
    }
    if (first.isPresent()) {
      Matcher row = ROW.matcher(first.get());
      long number = row.find() ? before + Long.parseLong(row.group(1)) : 0;
      String column =
          MariadbStaging.columnIn(first.get()).map(name -> "column " + name + ": ").orElse("");
      throw ProjectException.of(
          rows.place(Staging.position(rows, number)),
          column + MariadbStaging.words(first.get()),
          "");
    }
  }
}
