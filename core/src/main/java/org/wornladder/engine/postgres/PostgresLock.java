package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.UnreachableException;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.LockPolling;
import org.wornladder.engine.Target;

/**
 * An advisory lock of the session (PostgreSQL manual, 13.3.5). It is tried again and again: a
 * session that blocks on it would hold a snapshot, for which CREATE INDEX CONCURRENTLY waits.
 */
final class PostgresLock {
  /** Any number will do, as long as all versions take the same. */
  private static final long KEY = 7_142_857_004_711L;

  private static final String HOLDER =
      "SELECT a.pid, a.usename, coalesce(pg_catalog.host(a.client_addr), 'this machine'),"
          + " pg_catalog.to_char(a.backend_start AT TIME ZONE 'UTC', 'YYYY-MM-DD HH24:MI:SS')"
          + " FROM pg_catalog.pg_locks l JOIN pg_catalog.pg_stat_activity a ON a.pid = l.pid"
          + " WHERE l.locktype = 'advisory' AND l.granted AND l.objsubid = 1"
          + " AND l.database = (SELECT oid FROM pg_catalog.pg_database WHERE datname = pg_catalog.current_database())"
          + " AND (l.classid::bigint << 32) + l.objid::bigint = "
          + KEY;

  private PostgresLock() {}

  static DatabaseLock take(
      PostgresSession session, Target target, Duration wait, Consumer<String> onWait) {
    String where = "environment " + target.environment().name() + ", " + session.address();
    try {
      return LockPolling.take(
          () -> attempt(session, where), () -> holder(session), where, wait, onWait);
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, target.environment().name(), "taking the lock", e);
    }
  }

  private static Optional<DatabaseLock> attempt(PostgresSession session, String where)
      throws SQLException {
    try (ResultSet row =
        session
            .statement()
            .executeQuery(
                "SELECT pg_catalog.pg_try_advisory_lock("
                    + KEY
                    + "), pg_catalog.pg_backend_pid()")) {
      row.next();
      if (row.getLong(2) != session.backend()) {
        throw new UnreachableException(
            "something between here and the server deals its sessions out anew (a transaction"
                + " pooler), so no lock can be kept",
            where,
            "name the server itself in the url, or a pool in session mode",
            null);
      }
      return row.getBoolean(1) ? Optional.of(() -> release(session)) : Optional.empty();
    }
  }

  private static void release(PostgresSession session) {
    try {
      session.statement().execute("SELECT pg_catalog.pg_advisory_unlock(" + KEY + ")");
    } catch (SQLException e) {
      // The lock goes with the session, which is closed next.
      return;
    }
  }

  private static String holder(PostgresSession session) throws SQLException {
    return current(session).orElse("a session that is just ending");
  }

  /** The holder of the lock; empty if it is not held. */
  static Optional<String> current(PostgresSession session) throws SQLException {
    try (ResultSet row = session.statement().executeQuery(HOLDER)) {
      return row.next()
          ? Optional.of(
              "backend "
                  + row.getLong(1)
                  + " of "
                  + row.getString(2)
                  + " from "
                  + row.getString(3)
                  + ", since "
                  + row.getString(4)
                  + " UTC")
          : Optional.empty();
    }
  }
}
