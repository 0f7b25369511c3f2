package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.wornladder.engine.Session;

/**
 * Rows of the tool's own tables as text that inserts them. Rows that travel by the dozen are
 * inserted by a statement that is prepared on the server once (manual, "PREPARE"): to read the
 * insertion again for each would take as long as a small rung.
 */
final class PostgresRows {
  /** How the names of the statements begin that are prepared on the server. */
  static final String PREPARED = "ladder_row_";

  /** For a statement that is not sent yet: only the server will know how long it took. */
  private static final String SINCE_MESSAGE =
      "(EXTRACT(epoch FROM pg_catalog.clock_timestamp() - pg_catalog.statement_timestamp())"
          + " * 1000)::bigint";

  private final long backend;
  private String preparedFor = "";
  private int preparations;
  private OptionalLong first = OptionalLong.empty();

  /**
   * @param backend the session's process on the server
   */
  PostgresRows(long backend) {
    this.backend = backend;
  }

  /** Forgets what was prepared: a script, or a message that failed, may have undone it. */
  void forget() {
    preparedFor = "";
    first = OptionalLong.empty();
  }

  /** A message begins. */
  void messageBegins() {
    first = OptionalLong.empty();
  }

  /**
   * One row.
   *
   * @param table its name as statements write it
   * @param timed whether the statement before it travels in the same message
   */
  String alone(String table, List<String> columns, List<Object> values, boolean timed) {
    List<String> written = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      boolean elapsed = timed && columns.get(i).equals(Session.ELAPSED_COLUMN);
      written.add(elapsed ? SINCE_MESSAGE : ofSession(columns.get(i), literal(values.get(i))));
    }
    return insertion(table, columns, written);
  }

  /** One of several rows in a message, each timed from the one before it. */
  String amongOthers(String table, List<String> columns, List<Object> values) {
    List<String> written = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      if (!columns.get(i).equals(Session.ELAPSED_COLUMN)) {
        written.add(literal(values.get(i)));
      }
    }
    long number = (long) values.get(columns.indexOf(Session.NUMBER_COLUMN));
    first = OptionalLong.of(first.orElse(number));
    written.add(Long.toString(first.getAsLong()));
    String prepare = preparedFor.equals(table) ? "" : prepare(table, columns) + "; ";
    return prepare + "EXECUTE " + name() + " (" + String.join(", ", written) + ")";
  }

  private String prepare(String table, List<String> columns) {
    preparedFor = table;
    preparations++;
    List<String> places = new ArrayList<>();
    int place = 0;
    for (String column : columns) {
      boolean elapsed = column.equals(Session.ELAPSED_COLUMN);
      places.add(elapsed ? SINCE_MESSAGE : ofSession(column, "$" + ++place));
    }
    String earlier =
        " - (SELECT coalesce(pg_catalog.sum(elapsed_ms), 0) FROM %s WHERE number >= $%d AND number < $%d)"
            .formatted(table, place + 1, columns.indexOf(Session.NUMBER_COLUMN) + 1);
    int elapsed = columns.indexOf(Session.ELAPSED_COLUMN);
    places.set(elapsed, places.get(elapsed) + earlier);
    return "PREPARE " + name() + " AS " + insertion(table, columns, places);
  }

  private String name() {
    return PREPARED + preparations;
  }

  private static String insertion(String table, List<String> columns, List<String> values) {
    return "INSERT INTO "
        + table
        + " ("
        + String.join(", ", columns)
        + ") VALUES ("
        + String.join(", ", values)
        + ")";
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
