package org.wornladder.engine;

import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import org.wornladder.UnreachableException;

/**
 * A connection from a program's data source. Closing it restores the session settings that it had
 * when it was taken, since a pool reuses it for other work.
 */
public final class BorrowedConnection implements InvocationHandler {
  private final Connection lent;
  private final SessionSettings.Noted settings;
  private final boolean autoCommit;
  private boolean returned;

  private BorrowedConnection(Connection lent, SessionSettings.Noted settings, boolean autoCommit) {
    this.lent = lent;
    this.settings = settings;
    this.autoCommit = autoCommit;
  }

  /**
   * Borrows one.
   *
   * @throws UnreachableException if it is to be written on, and may only read
   */
  public static Connection of(Target target, String shown, Access access, SessionSettings engine)
      throws SQLException {
    Connection lent = target.dataSource().orElseThrow().getConnection();
    try {
      if (access == Access.WRITE && lent.isReadOnly()) {
        throw new UnreachableException(
            "the program's data source hands out connections that only read",
            "environment " + target.environment().name() + ", " + shown,
            "give the ladder a data source that may write",
            null);
      }
      boolean autoCommit = lent.getAutoCommit();
      if (!autoCommit) {
        lent.rollback();
        lent.setAutoCommit(true);
      }
      InvocationHandler handler = new BorrowedConnection(lent, engine.note(lent), autoCommit);
      return (Connection)
          Proxy.newProxyInstance(
              BorrowedConnection.class.getClassLoader(),
              new Class<?>[] {Connection.class},
              handler);
    } catch (SQLException | RuntimeException e) {
      lent.close();
      throw e;
    }
  }

  static boolean isBorrowed(Connection connection) {
    return Proxy.isProxyClass(connection.getClass())
        && Proxy.getInvocationHandler(connection) instanceof BorrowedConnection;
  }

  @Override
  public Object invoke(Object proxy, Method method, Object[] arguments) throws Throwable {
    if (method.getName().equals("close")) {
      giveBack();
      return null;
    }
    try {
      return method.invoke(lent, arguments);
    } catch (InvocationTargetException e) {
      throw e.getCause();
    }
  }

  private void giveBack() throws SQLException {
    if (returned) {
      return;
    }
    returned = true;
    try (lent) {
      if (!lent.isClosed()) {
        restore();
      }
    }
  }

  private void restore() throws SQLException {
    try {
      settings.restore();
      lent.setAutoCommit(autoCommit);
    } catch (SQLException e) {
      // A pool must not reuse a connection whose settings could not be restored.
      lent.abort(Runnable::run);
    }
  }
}
