package org.wornladder.engine;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;

/** Takes everything out of a database, with statements that the database itself has written. */
public final class DatabaseCleaner {
  private final Session session;

  public DatabaseCleaner(Session session) {
    this.session = session;
  }

  /** The first column of a query. */
  public List<String> list(String query) throws SQLException {
    List<String> found = new ArrayList<>();
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        found.add(rows.getString(1));
      }
    }
    return found;
  }

  /**
   * Statements in the order that they are to run, those that drop certain tables in the end: while
   * they stand, a run that was interrupted can be distinguished from a database of another project.
   *
   * @param last tables, as statements write them
   */
  public static List<String> ordered(List<String> statements, List<String> last) {
    List<String> first = new ArrayList<>();
    List<String> later = new ArrayList<>();
    for (String statement : statements) {
      if (last.stream().anyMatch(table -> statement.contains(" " + table))) {
        later.add(statement);
      } else {
        first.add(statement);
      }
    }
    first.addAll(later);
    return first;
  }

  /** Runs statements in their {@link #ordered order}. */
  public void run(List<String> statements, List<String> last) throws SQLException {
    for (String statement : ordered(statements, last)) {
      session.change(statement);
    }
  }
}
