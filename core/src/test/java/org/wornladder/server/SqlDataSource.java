package org.wornladder.server;

import java.io.PrintWriter;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.logging.Logger;
import javax.sql.DataSource;

/** Gives plain connections to a URL, and counts them. */
public final class SqlDataSource implements DataSource {
  private final String url;
  private int opened;

  public SqlDataSource(String url) {
    this.url = url;
  }

  public int opened() {
    return opened;
  }

  @Override
  public Connection getConnection() throws SQLException {
    opened++;
    return DriverManager.getConnection(url);
  }

  @Override
  public Connection getConnection(String user, String password) throws SQLException {
    opened++;
    return DriverManager.getConnection(url, user, password);
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
