package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.engine.Session;

/** Marks in a message that tell how far the server was when. */
final class PostgresMarks {
  private static final String COLUMN = "ladder_mark";

  /** The milliseconds since the message came. */
  static final String QUERY =
      "SELECT (pg_catalog.date_part('epoch', pg_catalog.clock_timestamp()"
          + " - pg_catalog.statement_timestamp()) * 1000)::bigint AS "
          + COLUMN;

  private static final int NO_MORE = -1;

  private PostgresMarks() {}

  /** Sends a message and waits for its end. */
  static Session.Took run(Statement sql, String message) throws SQLException {
    long start = System.nanoTime();
    List<Long> marks = new ArrayList<>();
    boolean rows = sql.execute(message);
    while (rows || sql.getUpdateCount() != NO_MORE) {
      if (rows) {
        mark(sql, marks);
      }
      rows = sql.getMoreResults();
    }
    return new Session.Took(System.nanoTime() - start, marks);
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
