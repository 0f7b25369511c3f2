package org.wornladder.engine;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import org.wornladder.project.RowHasher;

/** Rows of a table as a query finds them. */
public final class QueriedRows implements TableRows {
  /** How many rows the database sends at a time. */
  private static final int AT_ONCE = 1000;

  private final Statement statement;
  private final ResultSet found;
  private final Reader reader;

  /** Gives the row at which a result stands to a hasher. */
  public interface Reader {
    void read(ResultSet row, RowHasher hasher) throws SQLException;
  }

  public QueriedRows(Connection connection, String query, Reader reader) throws SQLException {
    this.reader = reader;
    statement = connection.createStatement();
    try {
      statement.setFetchSize(AT_ONCE);
      found = statement.executeQuery(query);
    } catch (SQLException e) {
      statement.close();
      throw e;
    }
  }

  @Override
  public boolean next(RowHasher hasher) throws SQLException {
    if (!found.next()) {
      return false;
    }
    reader.read(found, hasher);
    return true;
  }

  @Override
  public void close() throws SQLException {
    statement.close();
  }
}
