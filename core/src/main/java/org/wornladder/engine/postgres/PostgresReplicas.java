package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import org.wornladder.RefusedException;

/** How far replicas are behind (PostgreSQL manual, "pg_stat_replication"). */
final class PostgresReplicas {
  private static final String LAG =
      "SELECT pg_catalog.count(*), pg_catalog.count(state),"
          + " pg_catalog.max(pg_catalog.date_part('epoch', replay_lag))"
          + " FROM pg_catalog.pg_stat_replication";

  private PostgresReplicas() {}

  /**
   * @throws RefusedException if there are replicas of which the user may see nothing
   */
  static Duration lag(Statement control, String user) throws SQLException {
    try (ResultSet row = control.executeQuery(LAG)) {
      row.next();
      if (row.getLong(1) > row.getLong(2)) {
        throw RefusedException.of(
            "user " + user + " may not see how far the replicas are behind",
            "the server's pg_stat_replication",
            "GRANT pg_monitor TO " + PostgresEngine.QUOTING.name(user));
      }
      return Duration.ofMillis((long) (row.getDouble(3) * 1000));
    }
  }
}
