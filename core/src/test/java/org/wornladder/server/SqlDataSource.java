package org.wornladder.server;

import java.io.PrintWriter;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.ArrayList;
import java.util.List;
import java.util.logging.Logger;
import javax.sql.DataSource;

/** Gives plain connections to a URL, and counts them. */
public final class SqlDataSource implements DataSource {
  private final String url;
  private final List<Connection> given = new ArrayList<>();

  public SqlDataSource(String url) {
    this.url = url;
  }

  public int opened() {
    return given.size();
  }

  /** How many connections were not closed yet. */
  public long open() throws SQLException {
    long open = 0;
    for (Connection connection : given) {
      open += connection.isClosed() ? 0 : 1;
    }
    return open;
  }

  private Connection counted(Connection connection) {
    given.add(connection);
    return connection;
  }

  @Override
  public Connection getConnection() throws SQLException {
    return counted(DriverManager.getConnection(url));
  }

  @Override
  public Connection getConnection(String user, String password) throws SQLException {
    return counted(DriverManager.getConnection(url, user, password));
  }

  @Override
  public PrintWriter getLogWriter() {
    return new PrintWriter(PrintWriter.nullWriter());
  }

  @Override
  public void setLogWriter(PrintWriter out) {
    throw new UnsupportedOperationException();
  }

  @Override
  public void setLoginTimeout(int seconds) {
    throw new UnsupportedOperationException();
  }

  @Override
  public int getLoginTimeout() {
    return 0;
  }

  @Override
  public Logger getParentLogger() throws SQLFeatureNotSupportedException {
    throw new SQLFeatureNotSupportedException();
  }

  @Override
  public <T> T unwrap(Class<T> type) throws SQLException {
    throw new SQLException("not a wrapper of " + type.getName());
  }

  @Override
  public boolean isWrapperFor(Class<?> type) {
    return false;
  }
}
