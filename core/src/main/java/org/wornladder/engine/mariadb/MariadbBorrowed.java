package org.wornladder.engine.mariadb;

import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import java.util.Set;
import org.wornladder.engine.SessionSettings;

/** A session's variables, its database and its role (documentation, "SHOW VARIABLES"). */
final class MariadbBorrowed {
  private static final String VARIABLES = "SHOW SESSION VARIABLES";

  /** Variables that statements set themselves, so that they are not restored. */
  private static final Set<String> OF_STATEMENTS =
      Set.of(
          "error_count",
          "gtid_binlog_state",
          "gtid_current_pos",
          "identity",
          "in_transaction",
          "insert_id",
          "last_gtid",
          "last_insert_id",
          "rand_seed1",
          "rand_seed2",
          "timestamp",
          "warning_count");

  private MariadbBorrowed() {}

  static SessionSettings.Noted note(Connection connection) throws SQLException {
    Map<String, String> before = SessionSettings.read(connection, VARIABLES);
    String database = connection.getCatalog();
    String role =
        SessionSettings.read(connection, "SELECT 1, CURRENT_ROLE()").getOrDefault("1", "NONE");
    return () -> {
      try (Statement sql = connection.createStatement()) {
        sql.execute("SET ROLE " + MariadbSession.role(role));
        Map<String, String> now = SessionSettings.read(connection, VARIABLES);
        for (Map.Entry<String, String> one : before.entrySet()) {
          String value = now.get(one.getKey());
          if (!one.getValue().equals(value) && !OF_STATEMENTS.contains(one.getKey())) {
            sql.execute("SET SESSION " + one.getKey() + " = " + written(one.getValue()));
          }
        }
      }
      if (database != null && !database.isEmpty()) {
        connection.setCatalog(database);
      }
    };
  }

  private static String written(String value) {
    return value.matches("-?\\d+(\\.\\d+)?") ? value : MariadbEngine.QUOTING.text(value);
  }
}
