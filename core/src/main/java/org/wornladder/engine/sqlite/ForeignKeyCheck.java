package org.wornladder.engine.sqlite;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import java.util.TreeMap;

/**
 * The rows that point to nothing, found by SQLite itself (SQLite documentation, "PRAGMA
 * foreign_key_check").
 *
 * @param counts by the two tables, in words
 */
record ForeignKeyCheck(Map<String, Long> counts) {
  /** What is broken now; nothing if a foreign key cannot be checked, which is no change's fault. */
  static ForeignKeyCheck before(Statement sql) {
    try {
      return read(sql);
    } catch (SQLException e) {
      return new ForeignKeyCheck(Map.of());
    }
  }

  /**
   * Finds out whether more is broken now.
   *
   * @throws SQLException if it is
   */
  void refuseMore(Statement sql) throws SQLException {
    for (Map.Entry<String, Long> now : read(sql).counts.entrySet()) {
      long more = now.getValue() - counts.getOrDefault(now.getKey(), 0L);
      if (more > 0) {
        throw new SQLException(
            "foreign keys would be broken: "
                + more
                + (more == 1 ? " row of " : " rows of ")
                + now.getKey());
      }
    }
  }

  private static ForeignKeyCheck read(Statement sql) throws SQLException {
    String query =
        "SELECT \"table\" || ' would point to no row of ' || parent, count(*)"
            + " FROM pragma_foreign_key_check GROUP BY 1";
    Map<String, Long> counts = new TreeMap<>();
    try (ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        counts.put(rows.getString(1), rows.getLong(2));
      }
    }
    return new ForeignKeyCheck(counts);
  }
}
