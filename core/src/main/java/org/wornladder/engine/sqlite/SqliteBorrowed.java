package org.wornladder.engine.sqlite;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.wornladder.engine.SessionSettings;

/** What pragmas set in one connection (SQLite's documentation, "Pragma statements"). */
final class SqliteBorrowed {
  private static final List<String> PRAGMAS =
      List.of(
          "busy_timeout",
          "cache_size",
          "foreign_keys",
          "ignore_check_constraints",
          "legacy_alter_table",
          "query_only",
          "recursive_triggers",
          "synchronous",
          "temp_store");

  private SqliteBorrowed() {}

  static SessionSettings.Noted note(Connection connection) throws SQLException {
    Map<String, String> before = read(connection);
    return () -> {
      try (Statement sql = connection.createStatement()) {
        for (Map.Entry<String, String> one : before.entrySet()) {
          sql.execute("PRAGMA " + one.getKey() + " = " + one.getValue());
        }
      }
    };
  }

  private static Map<String, String> read(Connection connection) throws SQLException {
    Map<String, String> values = new LinkedHashMap<>();
    try (Statement sql = connection.createStatement()) {
      for (String pragma : PRAGMAS) {
        try (ResultSet row = sql.executeQuery("PRAGMA " + pragma)) {
          if (row.next()) {
            values.put(pragma, row.getString(1));
          }
        }
      }
    }
    return values;
  }
}
