package org.wornladder.engine.postgres;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;

/**
 * One query that a second connection runs meanwhile: of a large structure the indexes take the
 * server as long as all the rest.
 */
final class PostgresSecond implements AutoCloseable {
  private final FutureTask<ResultSet> asking;
  private Connection connection;

  /** What is done with the rows. */
  interface Reader {
    void read(ResultSet rows) throws SQLException;
  }

  private PostgresSecond(Callable<Connection> connecting, String settings, String query) {
    asking =
        new FutureTask<>(
            () -> {
              connection = connecting.call();
              Statement sql = connection.createStatement();
              sql.execute(settings);
              return sql.executeQuery(query);
            });
  }

  /** Begins to ask. */
  static PostgresSecond ask(Callable<Connection> connecting, String settings, String query) {
    PostgresSecond second = new PostgresSecond(connecting, settings, query);
    Thread thread = new Thread(second.asking, "second");
    thread.setDaemon(true);
    thread.start();
    return second;
  }

  /**
   * Reads what it found.
   *
   * @return false if a second connection was not to be had
   */
  boolean read(Reader reader) throws SQLException {
    try (ResultSet rows = asking.get()) {
      reader.read(rows);
      return true;
    } catch (ExecutionException e) {
      return false;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new SQLException("interrupted while the structure was read", "57014", e);
    }
  }

  @Override
  public void close() throws SQLException {
    try {
      asking.get();
    } catch (ExecutionException e) {
      // Whoever read heard of it; what was opened is closed all the same.
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    if (connection != null) {
      connection.close();
    }
  }
}
