package org.wornladder.engine.h2;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import org.wornladder.engine.SessionSettings;

/** What of a session of H2 can be read: how long it waits, its time zone and its schema. */
final class H2Borrowed {
  private H2Borrowed() {}

  static SessionSettings.Noted note(Connection connection) throws SQLException {
    String wait = value(connection, "lock_timeout()");
    String zone =
        value(
            connection,
            "(SELECT setting_value FROM information_schema.settings WHERE setting_name = 'TIME"
                + " ZONE')");
    String schema = value(connection, "current_schema");
    return () -> {
      try (Statement sql = connection.createStatement()) {
        sql.execute("SET LOCK_TIMEOUT " + wait);
        sql.execute("SET TIME ZONE " + H2Engine.QUOTING.text(zone));
        sql.execute("SET SCHEMA " + H2Engine.QUOTING.name(schema));
        sql.execute("SET QUERY_TIMEOUT 0");
      }
    };
  }

  private static String value(Connection connection, String expression) throws SQLException {
    return SessionSettings.read(connection, "SELECT 1, " + expression).getOrDefault("1", "");
  }
}
