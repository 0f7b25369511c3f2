package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Function;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementMeter;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Statement;

/**
 * The locks that a statement takes on tables that were there before it, which of them get new files
 * or are read whole, and how much it writes to the log (PostgreSQL manual, "pg_locks", "pg_class",
 * "pg_stat_xact_all_tables", "Write-Ahead Log"). It runs in a transaction that is rolled back.
 */
final class PostgresMeter implements StatementMeter {
  private static final String LOCKS =
      """
      SELECT l.relation, l.mode
      FROM pg_catalog.pg_locks l
      WHERE l.pid = pg_catalog.pg_backend_pid() AND l.granted AND l.locktype = 'relation'
        AND l.mode <> 'AccessShareLock'
      """;
  private static final String NAMES =
      """
      SELECT c.oid, c.relname
      FROM pg_catalog.pg_class c
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
      WHERE c.relkind IN ('r', 'p', 'm')
        AND n.nspname NOT IN ('pg_catalog', 'information_schema', 'pg_toast')
        AND CAST(n.nspname AS text) NOT LIKE CAST('pg_temp%' AS text)
      """;
  private static final String FILES =
      """
      SELECT c.oid, pg_catalog.pg_relation_filenode(c.oid)
      FROM pg_catalog.pg_class c
      WHERE c.relkind IN ('r', 'm') AND c.oid >= 16384
      """;
  private static final String SCANS =
      """
      SELECT s.relid, s.seq_scan
      FROM pg_catalog.pg_stat_xact_user_tables s
      WHERE s.seq_scan > 0
      """;

  /** In this transaction, out of the server's memory or not (its source, "pgstatfuncs.c"). */
  private static final String BYTES =
      """
      SELECT c.oid, pg_catalog.pg_stat_get_xact_blocks_fetched(c.oid)
          * CAST(pg_catalog.current_setting('block_size') AS bigint)
      FROM pg_catalog.pg_class c
      WHERE c.relkind IN ('r', 'm', 'i', 't') AND c.oid >= 16384
      """;

  /** A BEGIN is sent with what follows it. */
  private static final String FIRST = "SELECT 1";

  private static final String LOG = "SELECT pg_catalog.pg_current_wal_insert_lsn() - '0/0'";

  /** Below this, what others at work write hides it, and what is read takes no time. */
  private static final long MOST_UNSAID = 1_000_000;

  /** Statements of which a reader cannot tell whether they read a table whole. */
  private static final Set<String> OF_STRUCTURE = Set.of("ALTER", "CREATE", "REFRESH", "CLUSTER");

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
      // The server adds up counters between transactions: it must know of this one from now on.
      session.change(FIRST);
      for (Statement statement : statements) {
        measured.add(measure(statement));
      }
    } catch (SQLException e) {
      // The proof runs it once more, and says why it fails.
      return measured;
    } finally {
      session.rollback();
    }
    return measured;
  }

  /** What is known of tables by the numbers that the server gives them. */
  private record State(
      Map<String, String> names,
      Set<String> locks,
      Map<String, String> files,
      Map<String, String> scans,
      Map<String, String> bytes,
      long log) {
    /** The tables that were there before and have another value now, by name. */
    List<String> changed(State before, Function<State, Map<String, String>> values) {
      Map<String, String> was = values.apply(before);
      Map<String, String> is = values.apply(this);
      return before.names().entrySet().stream()
          .filter(table -> is.containsKey(table.getKey()))
          .filter(table -> !is.get(table.getKey()).equals(was.get(table.getKey())))
          .map(Map.Entry::getValue)
          .sorted()
          .toList();
    }

    /** Each for itself: an index that a statement makes anew takes its old count with it. */
    long bytesRead(State before) {
      return bytes.entrySet().stream()
          .mapToLong(
              read ->
                  Long.parseLong(read.getValue())
                      - Long.parseLong(before.bytes().getOrDefault(read.getKey(), "0")))
          .sum();
    }
  }

  private State state() throws SQLException {
    return new State(pairs(NAMES), locks(), pairs(FILES), pairs(SCANS), pairs(BYTES), number(LOG));
  }

  private Measured measure(Statement statement) throws SQLException {
    State before = state();
    long start = System.nanoTime();
    session.execute(statement);
    session.flush();
    double millis = (System.nanoTime() - start) / 1e6;
    State after = state();
    Set<String> locks = after.locks();
    locks.removeAll(before.locks());
    List<String> effects = new ArrayList<>();
    Map<String, String> byName = new TreeMap<>();
    strongest(locks)
        .forEach(
            (table, mode) ->
                Optional.ofNullable(before.names().get(table))
                    .ifPresent(name -> byName.put(name, mode)));
    byName.forEach((name, mode) -> effects.add(mode.replace("Lock", "") + " on " + name));
    List<String> rewritten = after.changed(before, State::files);
    List<String> read = isOfStructure(statement) ? after.changed(before, State::scans) : List.of();
    rewritten.forEach(table -> effects.add("rewrites " + table));
    read.stream()
        .filter(table -> !rewritten.contains(table))
        .forEach(table -> effects.add("reads all of " + table));
    long bytes = after.bytesRead(before);
    if (bytes >= MOST_UNSAID) {
      effects.add("reads " + bytes / MOST_UNSAID + " MB of blocks");
    }
    long log = after.log() - before.log();
    if (log >= MOST_UNSAID) {
      effects.add("writes " + log / MOST_UNSAID + " MB to the log");
    }
    Set<String> whole = new TreeSet<>(rewritten);
    whole.addAll(read);
    return new Measured(millis, effects, List.copyOf(whole));
  }

  /** A query reads a small table whole, whatever it does on a large one: only others are said. */
  private static boolean isOfStructure(Statement statement) {
    List<String> words = StatementWords.first(statement, 1);
    return !words.isEmpty() && OF_STRUCTURE.contains(words.get(0));
  }

  private long number(String query) throws SQLException {
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      rows.next();
      return rows.getLong(1);
    }
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

  private Map<String, String> pairs(String query) throws SQLException {
    Map<String, String> pairs = new TreeMap<>();
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        pairs.put(rows.getString(1), rows.getString(2));
      }
    }
    return pairs;
  }
}
