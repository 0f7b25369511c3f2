package org.wornladder.engine.postgres;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import org.wornladder.engine.SessionSettings;

/**
 * A session's settings (PostgreSQL manual, "pg_settings", "SET", "RESET"): what it was connected
 * with comes back by itself, and what was set since is set again.
 */
final class PostgresBorrowed {
  private static final String SET =
      "SELECT name, setting FROM pg_catalog.pg_settings WHERE source OPERATOR(pg_catalog.=)"
          + " 'session' AND name NOT IN ('transaction_isolation', 'transaction_read_only',"
          + " 'transaction_deferrable')";
  private static final String ROLE =
      "SELECT 'role', pg_catalog.current_setting('role') UNION ALL"
          + " SELECT 'session_authorization', CAST(session_user AS text)";

  private PostgresBorrowed() {}

  static SessionSettings.Noted note(Connection connection) throws SQLException {
    Map<String, String> set = SessionSettings.read(connection, SET);
    set.putAll(SessionSettings.read(connection, ROLE));
    return () -> restore(connection, set);
  }

  private static void restore(Connection connection, Map<String, String> set) throws SQLException {
    try (Statement sql = connection.createStatement()) {
      sql.execute("RESET SESSION AUTHORIZATION");
      sql.execute("RESET ALL");
    }
    try (PreparedStatement sql =
        connection.prepareStatement("SELECT pg_catalog.set_config(?, ?, false)")) {
      for (Map.Entry<String, String> one : set.entrySet()) {
        sql.setString(1, one.getKey());
        sql.setString(2, one.getValue());
        sql.execute();
      }
    }
  }
}
