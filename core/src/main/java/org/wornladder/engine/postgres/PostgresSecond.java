package org.wornladder.engine.postgres;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.Callable;
import org.wornladder.engine.Meanwhile;
import org.wornladder.fault.LadderException;

/**
 * One query that a second connection runs meanwhile: of a large structure the indexes take the
 * server as long as all the rest.
 */
final class PostgresSecond implements AutoCloseable {
  private final Meanwhile<ResultSet> asking;
  private volatile Connection connection;

  private PostgresSecond(Callable<Connection> connecting, String settings, String query) {
    asking =
        Meanwhile.begin(
            () -> {
              connection = connecting.call();
              Statement sql = PostgresQueries.statement(connection);
              sql.execute(settings);
              return sql.executeQuery(query);
            });
  }

  /** Begins to ask. */
  static PostgresSecond ask(Callable<Connection> connecting, String settings, String query) {
    return new PostgresSecond(connecting, settings, query);
  }

  /**
   * Reads what it found.
   *
   * @return false if a second connection was not to be had
   */
  boolean read(PostgresQueries.Reader reader) throws SQLException {
    ResultSet found;
    try {
      found = asking.get();
    } catch (SQLException | LadderException e) {
      return false;
    }
    try (ResultSet rows = found) {
      reader.read(rows);
      return true;
    }
  }

  @Override
  public void close() throws SQLException {
    asking.close();
    if (connection != null) {
      connection.close();
    }
  }
}
