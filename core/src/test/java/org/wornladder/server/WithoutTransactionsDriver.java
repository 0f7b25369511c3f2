package org.wornladder.server;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.Driver;
import java.sql.DriverManager;
import java.sql.DriverPropertyInfo;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Properties;
import java.util.Set;
import java.util.logging.Logger;

/**
 * Another driver's databases as an engine would serve them that has no transactions: {@code
 * jdbc:plain:hsqldb:mem:bins} is {@code jdbc:hsqldb:mem:bins}, where each statement stays once it
 * is run. A client can be ended before any statement.
 */
public final class WithoutTransactionsDriver implements Driver {
  public static final String PREFIX = "jdbc:plain:";

  private static final Set<String> OF_TRANSACTIONS =
      Set.of("setAutoCommit", "commit", "rollback", "setTransactionIsolation");

  /** Thrown where the client ends: its connection is gone, and it does nothing more. */
  public static final class DeadClient extends Error {
    private static final long serialVersionUID = 1;
  }

  static {
    try {
      DriverManager.registerDriver(new WithoutTransactionsDriver());
    } catch (SQLException e) {
      throw new ExceptionInInitializerError(e);
    }
  }

  private static Thread client = Thread.currentThread();
  private static int statements;
  private static int last = Integer.MAX_VALUE;

  /** Lets the client of this thread end before a statement, counted from 1. */
  public static void endBefore(int statement) {
    client = Thread.currentThread();
    statements = 0;
    last = statement;
  }

  @Override
  public Connection connect(String url, Properties info) throws SQLException {
    return acceptsURL(url)
        ? plain(
            Connection.class,
            DriverManager.getConnection("jdbc:" + url.substring(PREFIX.length()), info))
        : null;
  }

  private static <T> T plain(Class<T> type, T inner) {
    return type.cast(
        Proxy.newProxyInstance(
            type.getClassLoader(),
            new Class<?>[] {type},
            (proxy, method, arguments) -> answer(inner, method, arguments)));
  }

  private static Object answer(Object inner, Method method, Object... arguments) throws Throwable {
    if (inner instanceof Connection && OF_TRANSACTIONS.contains(method.getName())) {
      return null;
    }
    if (method.getName().equals("supportsTransactions")) {
      return false;
    }
    if (inner instanceof Statement sql && method.getName().startsWith("execute")) {
      count(sql);
    }
    Object answer;
    try {
      answer = method.invoke(inner, arguments);
    } catch (InvocationTargetException e) {
      throw e.getCause();
    }
    boolean wrapped =
        inner instanceof Connection
            && (answer instanceof Statement || answer instanceof DatabaseMetaData);
    return wrapped ? wrapped(method.getReturnType(), answer) : answer;
  }

  private static <T> T wrapped(Class<T> type, Object answer) {
    return plain(type, type.cast(answer));
  }

  private static void count(Statement sql) throws SQLException {
    if (Thread.currentThread() == client && ++statements >= last) {
      sql.getConnection().close();
      throw new DeadClient();
    }
  }

  @Override
  public boolean acceptsURL(String url) {
    return url.startsWith(PREFIX);
  }

  @Override
  public DriverPropertyInfo[] getPropertyInfo(String url, Properties info) {
    return new DriverPropertyInfo[0];
  }

  @Override
  public int getMajorVersion() {
    return 1;
  }

  @Override
  public int getMinorVersion() {
    return 0;
  }

  @Override
  public boolean jdbcCompliant() {
    return false;
  }

  @Override
  public Logger getParentLogger() {
    return Logger.getGlobal();
  }
}
