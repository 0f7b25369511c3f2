package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.engine.Session;

/**
 * Rows of the tool's own tables in transit to the server, as text that inserts them. Rows that each
 * follow a statement of a long message are inserted by a statement that is prepared on the server
 * once (manual, "PREPARE"): to read the insertion again for each would take as long as a small
 * rung. Rows that follow one another are one insertion.
 */
final class PostgresInsertBuffer {
  /** How the names of the statements begin that are prepared on the server. */
  static final String PREPARED = "ladder_row_";

  /** For a statement that is not sent yet: only the server will know how long it took. */
  private static final String SINCE_MESSAGE =
      "(pg_catalog.date_part('epoch', pg_catalog.clock_timestamp() - pg_catalog.statement_timestamp())"
          + " * 1000)::bigint";

  /** The same for one of several: it leaves word of the time for the next one under a name. */
  private static final String SINCE_THE_ONE_BEFORE =
      "pg_catalog.set_config($%d, (pg_catalog.date_part('epoch', pg_catalog.clock_timestamp()) * 1000)"
          + "::bigint::text, false)::bigint - coalesce(nullif(pg_catalog.current_setting($%d, true), '')"
          + "::bigint, (pg_catalog.date_part('epoch', pg_catalog.statement_timestamp()) * 1000)::bigint)";

  /** The names of the session's settings that hold the time, in turn. */
  private static final List<String> TIMES = List.of("'ladder.even'", "'ladder.odd'");

  /** The name of one that is never set. */
  private static final String NO_TIME = "'ladder.none'";

  private final long backend;
  private final List<Insertion> pending = new ArrayList<>();
  private String preparedFor = "";
  private int preparations;
  private int inMessage;

  /**
   * @param backend the session's process on the server
   */
  PostgresInsertBuffer(long backend) {
    this.backend = backend;
  }

  /**
   * A row that waits.
   *
   * @param joins whether the values alone may follow another of the same beginning
   */
  private record Insertion(String beginning, String values, boolean joins) {}

  /** Forgets what was prepared: a script, or a message that failed, may have undone it. */
  void forget() {
    preparedFor = "";
  }

  /** Drops what waits. */
  void drop() {
    pending.clear();
  }

  boolean areWaiting() {
    return !pending.isEmpty();
  }

  /** A message begins. */
  void messageBegins() {
    inMessage = 0;
  }

  /** The rows that wait, as text in front of another statement. */
  String take() {
    StringBuilder text = new StringBuilder();
    String beginning = "";
    for (Insertion row : pending) {
      boolean joins = row.joins() && row.beginning().equals(beginning);
      text.append(text.isEmpty() ? "" : joins ? ", " : "; ");
      text.append(joins ? "" : row.beginning()).append(row.values());
      beginning = row.joins() ? row.beginning() : "";
    }
    pending.clear();
    return text.append(text.isEmpty() ? "" : "; ").toString();
  }

  /**
   * Adds a row.
   *
   * @param table its name as statements write it
   * @param timed whether the statement before it travels in the same message
   */
  void add(String table, List<String> columns, List<Object> values, boolean timed) {
    List<String> written = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      boolean elapsed = timed && columns.get(i).equals(Session.ELAPSED_COLUMN);
      written.add(elapsed ? SINCE_MESSAGE : ofSession(columns.get(i), literal(values.get(i))));
    }
    pending.add(new Insertion(beginning(table, columns), listed(written), !timed));
  }

  /** Adds a statement that changes rows added before. */
  void amend(String sql) {
    pending.add(new Insertion(sql, "", false));
  }

  /** Adds one of several rows that each follow a statement, and are timed from one to the next. */
  void addInTurn(String table, List<String> columns, List<Object> values) {
    List<String> written = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      if (!columns.get(i).equals(Session.ELAPSED_COLUMN)) {
        written.add(literal(values.get(i)));
      }
    }
    written.add(TIMES.get(inMessage % 2));
    written.add(inMessage == 0 ? NO_TIME : TIMES.get((inMessage + 1) % 2));
    inMessage++;
    String prepare = preparedFor.equals(table) ? "" : prepare(table, columns) + "; ";
    pending.add(new Insertion(prepare + "EXECUTE " + name() + " ", listed(written), false));
  }

  private String prepare(String table, List<String> columns) {
    preparedFor = table;
    preparations++;
    List<String> places = new ArrayList<>();
    int place = 0;
    for (String column : columns) {
      places.add(
          column.equals(Session.ELAPSED_COLUMN)
              ? SINCE_THE_ONE_BEFORE.formatted(columns.size(), columns.size() + 1)
              : ofSession(column, "$" + ++place));
    }
    return "PREPARE " + name() + " AS " + beginning(table, columns) + listed(places);
  }

  private String name() {
    return PREPARED + preparations;
  }

  private static String beginning(String table, List<String> columns) {
    return "INSERT INTO " + table + " (" + String.join(", ", columns) + ") VALUES ";
  }

  private static String listed(List<String> values) {
    return "(" + String.join(", ", values) + ")";
  }

  /** In the session's column null, which it refuses, if the server's session is another by now. */
  private String ofSession(String column, String text) {
    return column.equals(Session.ID_COLUMN)
        ? "CASE WHEN pg_catalog.pg_backend_pid() = " + backend + " THEN " + text + " END"
        : text;
  }

  private static String literal(Object value) {
    return value instanceof Number ? value.toString() : text(value.toString());
  }

  /** A string that no setting of the session reads otherwise. */
  private static String text(String value) {
    return "E'" + value.replace("\\", "\\\\").replace("'", "''").replace("\0", "") + "'";
  }
}
