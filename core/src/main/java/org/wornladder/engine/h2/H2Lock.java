package org.wornladder.engine.h2;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import org.h2.api.ErrorCode;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.LockPolling;

/**
 * A lock on a row, for a database that several programs share. H2 has no locks of a session, and
 * its changes of structure end a transaction: so a connection of its own holds the row.
 */
final class H2Lock {
  static final String TABLE = "ladder_lock";

  private static final String NAME = H2Engine.QUOTING.name(TABLE);
  private static final String HOLDER =
      "SELECT 'session ' || session_id || ' of ' || user_name || ' from '"
          + " || coalesce(client_addr, 'this machine') FROM information_schema.sessions"
          + " WHERE contains_uncommitted AND session_id <> session_id() LIMIT 1";

  private static final String LOCKING =
      "SELECT 'session ' || s.session_id || ' of ' || s.user_name || ' from '"
          + " || coalesce(s.client_addr, 'this machine') FROM information_schema.locks l"
          + " JOIN information_schema.sessions s ON s.session_id = l.session_id"
          + " WHERE upper(l.table_name) = '"
          + TABLE.toUpperCase(Locale.ROOT)
          + "' AND s.session_id <> session_id()";

  private static final Set<String> HELD_HERE = ConcurrentHashMap.newKeySet();

  private H2Lock() {}

  /** A lock among the threads of this process. */
  static DatabaseLock amongThreads(
      String database, String where, Duration wait, Consumer<String> onWait) {
    try {
      return LockPolling.take(
          () ->
              HELD_HERE.add(database)
                  ? Optional.of(() -> HELD_HERE.remove(database))
                  : Optional.empty(),
          () -> "this process",
          where,
          wait,
          onWait);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Opens a connection. */
  interface Opening {
    Connection open() throws SQLException;
  }

  static DatabaseLock take(
      H2Session session, Opening opening, String where, Duration wait, Consumer<String> onWait) {
    try {
      Connection connection = opening.open();
      try (Statement sql = connection.createStatement()) {
        sql.execute("CREATE TABLE IF NOT EXISTS " + NAME + " (id integer PRIMARY KEY)");
        sql.execute("MERGE INTO " + NAME + " (id) KEY (id) VALUES (1)");
        sql.execute("SET LOCK_TIMEOUT 1");
        connection.setAutoCommit(false);
        return LockPolling.take(
            () -> attempt(connection), () -> holder(connection), where, wait, onWait);
      } catch (SQLException | RuntimeException e) {
        connection.close();
        throw e;
      }
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, where, "taking the lock", e);
    }
  }

  /** The holder of the lock of a shared database; empty if it is not held. */
  static Optional<String> holder(H2Session session) throws SQLException {
    try (Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(LOCKING)) {
      return row.next() ? Optional.of(row.getString(1)) : Optional.empty();
    }
  }

  /** Whether another thread of this process holds it. */
  static Optional<String> holderAmongThreads(String database) {
    return HELD_HERE.contains(database) ? Optional.of("this process") : Optional.empty();
  }

  private static Optional<DatabaseLock> attempt(Connection connection) throws SQLException {
    try (Statement sql = connection.createStatement();
        ResultSet row = sql.executeQuery("SELECT id FROM " + NAME + " FOR UPDATE")) {
      return row.next() ? Optional.of(() -> release(connection)) : Optional.empty();
    } catch (SQLException e) {
      boolean held =
          e.getErrorCode() == ErrorCode.LOCK_TIMEOUT_1
              || e.getErrorCode() == ErrorCode.CONCURRENT_UPDATE_1
              || e.getErrorCode() == ErrorCode.DEADLOCK_1;
      if (!held) {
        throw e;
      }
      return Optional.empty();
    }
  }

  private static void release(Connection connection) {
    try {
      connection.close();
    } catch (SQLException e) {
      // The server ends the session by itself.
      return;
    }
  }

  private static String holder(Connection connection) throws SQLException {
    try (Statement sql = connection.createStatement();
        ResultSet row = sql.executeQuery(HOLDER)) {
      return row.next() ? row.getString(1) : "a session that is just ending";
    }
  }
}
