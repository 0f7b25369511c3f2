package org.wornladder.seed;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.engine.Session;

/** Asks a database. */
record TableQueries(Session session) {
  /** What a row of an answer becomes. */
  interface Reading<T> {
    T read(ResultSet row) throws SQLException;
  }

  <T> List<T> list(String query, Reading<T> reading) throws SQLException {
    List<T> found = new ArrayList<>();
    try (Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        found.add(reading.read(rows));
      }
    }
    return found;
  }

  long number(String query) throws SQLException {
    return list(query, row -> row.getLong(1)).get(0);
  }

  boolean isEmpty(String table) throws SQLException {
    return list("SELECT 1 FROM " + session.quoted(table) + session.atMost(1), row -> 1).isEmpty();
  }
}
