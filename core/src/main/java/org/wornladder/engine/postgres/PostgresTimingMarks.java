package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.engine.Pipeline;

/**
 * Marks in a message that say how far the server was when. They are prepared on the server once
 * (manual, "PREPARE"): to read and to plan one takes as long as a small rung.
 */
final class PostgresTimingMarks {
  /** How the names of the statements begin that are prepared on the server. */
  static final String PREPARED = "ladder_mark_";

  private static final String COLUMN = "ladder_mark";

  /** The milliseconds since the message came. */
  private static final String QUERY =
      "SELECT (pg_catalog.date_part('epoch', pg_catalog.clock_timestamp()"
          + " - pg_catalog.statement_timestamp()) * 1000)::bigint AS "
          + COLUMN;

  private static final int NO_MORE = -1;

  private int preparations;
  private boolean prepared;

  /** The text of the next mark. */
  String next() {
    String prepare = prepared ? "" : "PREPARE " + PREPARED + ++preparations + " AS " + QUERY + "; ";
    prepared = true;
    return prepare + "EXECUTE " + PREPARED + preparations;
  }

  /** Forgets what was prepared: a script, or a message that failed, may have undone it. */
  void forget() {
    prepared = false;
  }

  /** Sends a message and waits for its end. */
  static Pipeline.Timing run(Statement sql, String message) throws SQLException {
    long start = System.nanoTime();
    List<Long> marks = new ArrayList<>();
    boolean rows = sql.execute(message);
    while (rows || sql.getUpdateCount() != NO_MORE) {
      if (rows) {
        mark(sql, marks);
      }
      rows = sql.getMoreResults();
    }
    return new Pipeline.Timing(System.nanoTime() - start, marks);
  }

  /** A script's own statements have answers too. */
  private static void mark(Statement sql, List<Long> marks) throws SQLException {
    try (ResultSet answer = sql.getResultSet()) {
      if (answer.getMetaData().getColumnLabel(1).equals(COLUMN) && answer.next()) {
        marks.add(answer.getLong(1));
      }
    }
  }
}
