package org.wornladder.engine;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import java.util.TreeMap;

/** How an engine's session is brought back to what it was: its settings, its schema, its role. */
@FunctionalInterface
public interface SessionSettings {
  /** What a session was like. */
  @FunctionalInterface
  interface Noted {
    /** Makes it that again. */
    void restore() throws SQLException;
  }

  /** Notes what a session is like now. */
  Noted note(Connection connection) throws SQLException;

  /** The first two columns of a query, as names and values; a value of NULL is left out. */
  static Map<String, String> read(Connection connection, String query) throws SQLException {
    Map<String, String> settings = new TreeMap<>();
    try (Statement sql = connection.createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        if (rows.getString(2) != null) {
          settings.put(rows.getString(1), rows.getString(2));
        }
      }
    }
    return settings;
  }
}
