package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementMeter;
import org.wornladder.sql.Statement;

/**
 * The locks that a statement takes on tables that were there before it, and which of them get new
 * files (PostgreSQL manual, "pg_locks", "pg_class"). It runs in a transaction that is rolled back.
 */
final class PostgresMeter implements StatementMeter {
  private static final String LOCKS =
      """
      SELECT c.relname, l.mode
      FROM pg_catalog.pg_locks l
        JOIN pg_catalog.pg_class c ON c.oid = l.relation
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
      WHERE l.pid = pg_catalog.pg_backend_pid() AND l.granted AND c.relkind IN ('r', 'p', 'm')
        AND l.mode <> 'AccessShareLock'
        AND n.nspname NOT IN ('pg_catalog', 'information_schema', 'pg_toast')
      """;
  private static final String FILES =
      """
      SELECT c.relname, pg_catalog.pg_relation_filenode(c.oid)
      FROM pg_catalog.pg_class c
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
      WHERE c.relkind IN ('r', 'm')
        AND n.nspname NOT IN ('pg_catalog', 'information_schema', 'pg_toast')
        AND CAST(n.nspname AS text) NOT LIKE CAST('pg_temp%' AS text)
      """;

  /** From the weakest on (PostgreSQL manual, "Table-Level Locks"). */
  private static final List<String> STRENGTH =
      List.of(
          "AccessShareLock",
          "RowShareLock",
          "RowExclusiveLock",
          "ShareUpdateExclusiveLock",
          "ShareLock",
          "ShareRowExclusiveLock",
          "ExclusiveLock",
          "AccessExclusiveLock");

  private final Session session;

  PostgresMeter(Session session) {
    this.session = session;
  }

  @Override
  public List<Measured> measure(List<Statement> statements) throws SQLException {
    List<Measured> measured = new ArrayList<>();
    session.begin();
    try {
      for (Statement statement : statements) {
        long start = System.nanoTime();
        List<String> effects = run(statement);
        measured.add(new Measured((System.nanoTime() - start) / 1e6, effects));
      }
    } catch (SQLException e) {
      // The proof runs it once more, and says why it fails.
      return measured;
    } finally {
      session.rollback();
    }
    return measured;
  }

  private List<String> run(Statement statement) throws SQLException {
    Set<String> locksBefore = locks();
    Map<String, String> filesBefore = files();
    session.execute(statement);
    session.flush();
    Set<String> locks = locks();
    locks.removeAll(locksBefore);
    List<String> effects = new ArrayList<>();
    strongest(locks)
        .forEach(
            (table, mode) -> {
              if (filesBefore.containsKey(table)) {
                effects.add(mode.replace("Lock", "") + " on " + table);
              }
            });
    Map<String, String> files = files();
    filesBefore.forEach(
        (table, file) -> {
          if (files.containsKey(table) && !files.get(table).equals(file)) {
            effects.add("rewrites " + table);
          }
        });
    return effects;
  }

  /** A weaker lock adds nothing to a stronger one on the same table. */
  private static Map<String, String> strongest(Set<String> locks) {
    Map<String, String> strongest = new TreeMap<>();
    for (String lock : locks) {
      int blank = lock.lastIndexOf(' ');
      strongest.merge(
          lock.substring(0, blank),
          lock.substring(blank + 1),
          (one, other) -> STRENGTH.indexOf(one) > STRENGTH.indexOf(other) ? one : other);
    }
    return strongest;
  }

  private Set<String> locks() throws SQLException {
    Set<String> locks = new TreeSet<>();
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(LOCKS)) {
      while (rows.next()) {
        locks.add(rows.getString(1) + " " + rows.getString(2));
      }
    }
    return locks;
  }

  private Map<String, String> files() throws SQLException {
    Map<String, String> files = new TreeMap<>();
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(FILES)) {
      while (rows.next()) {
        files.put(rows.getString(1), rows.getString(2));
      }
    }
    return files;
  }
}
