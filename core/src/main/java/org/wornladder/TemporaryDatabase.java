package org.wornladder;

import java.io.PrintWriter;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.Optional;
import java.util.logging.Logger;
import javax.sql.DataSource;

/**
 * A database of its own that has all rungs in place, such as a test wants. It is dropped when it is
 * closed.
 */
public final class TemporaryDatabase implements AutoCloseable {
  private final String url;
  private final Optional<String> user;
  private final Optional<String> password;
  private final AutoCloseable owner;

  /**
   * @param url as JDBC has it
   * @param owner drops the database when it is closed
   */
  public TemporaryDatabase(
      String url, Optional<String> user, Optional<String> password, AutoCloseable owner) {
    this.url = url;
    this.user = user;
    this.password = password;
    this.owner = owner;
  }

  /** As JDBC has it. */
  public String url() {
    return url;
  }

  /** Empty where the database wants none. */
  public Optional<String> user() {
    return user;
  }

  /** Empty where the database wants none. */
  public Optional<String> password() {
    return password;
  }

  /** A new connection; the caller closes it. */
  public Connection connect() throws SQLException {
    return user.isPresent()
        ? DriverManager.getConnection(url, user.get(), password.orElse(""))
        : DriverManager.getConnection(url);
  }

  /** New connections, not pooled. */
  public DataSource dataSource() {
    return new Connections();
  }

  /**
   * Drops it.
   *
   * @throws IllegalStateException if that fails
   */
  @Override
  public void close() {
    try {
      owner.close();
    } catch (RuntimeException e) {
      throw e;
    } catch (Exception e) {
      throw new IllegalStateException("the temporary database cannot be dropped", e);
    }
  }

  private final class Connections implements DataSource {
    @Override
    public Connection getConnection() throws SQLException {
      return connect();
    }

    @Override
    public Connection getConnection(String otherUser, String otherPassword) throws SQLException {
      return DriverManager.getConnection(url, otherUser, otherPassword);
    }

    @Override
    public PrintWriter getLogWriter() {
      return new PrintWriter(PrintWriter.nullWriter());
    }

    @Override
    public void setLogWriter(PrintWriter out) {
      // Nothing is logged.
    }

    @Override
    public void setLoginTimeout(int seconds) throws SQLException {
      throw new SQLFeatureNotSupportedException("a timeout of the login");
    }

    @Override
    public int getLoginTimeout() {
      return 0;
    }

    @Override
    public Logger getParentLogger() throws SQLFeatureNotSupportedException {
      throw new SQLFeatureNotSupportedException("a logger");
    }

    @Override
    public <T> T unwrap(Class<T> type) throws SQLException {
      throw new SQLFeatureNotSupportedException(type.getName());
    }

    @Override
    public boolean isWrapperFor(Class<?> type) {
      return false;
    }
  }
}
