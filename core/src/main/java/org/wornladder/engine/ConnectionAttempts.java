package org.wornladder.engine;

import java.io.EOFException;
import java.net.SocketException;
import java.net.SocketTimeoutException;
import java.net.UnknownHostException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.function.Function;
import javax.net.ssl.SSLException;
import org.wornladder.Advice;
import org.wornladder.LadderException;
import org.wornladder.UnreachableException;

/** Connects to a server, and waits for one that is still starting if that is asked for. */
public final class ConnectionAttempts {
  /** How long a server may take to answer at all, in seconds. */
  public static final int ANSWER_SECONDS = 10;

  private static final long FIRST_PAUSE_MS = 100;
  private static final long LONGEST_PAUSE_MS = 2000;

  private ConnectionAttempts() {}

  /** What a failure to connect means. */
  public enum Answer {
    /** Refused, starting up, full, no such host: a later attempt may do. */
    NOT_YET,
    WRONG_CREDENTIALS,
    NO_DATABASE,
    /** The server takes the password through an encrypted connection alone. */
    UNENCRYPTED,
    OTHER
  }

  /** One attempt. */
  public interface Attempt<T> {
    T connect() throws SQLException;
  }

  /**
   * Connects, or takes the connection that a program's data source gives; repeats what may succeed
   * later until the target's patience ends.
   *
   * @param settings notes what a connection is like that a program's data source gives
   * @throws UnreachableException in the end, or at once where waiting cannot help
   */
  public static Connection patiently(
      Target target,
      String shown,
      Access access,
      Attempt<Connection> attempt,
      SessionSettings settings,
      Function<SQLException, Answer> meaning) {
    Attempt<Connection> either =
        target.dataSource().isPresent()
            ? () -> BorrowedConnection.of(target, shown, access, settings)
            : attempt;
    return patiently(target, shown, either, meaning);
  }

  /**
   * Connects; repeats what may succeed later until the target's patience ends.
   *
   * @throws UnreachableException in the end, or at once where waiting cannot help
   */
  public static <T> T patiently(
      Target target, String shown, Attempt<T> attempt, Function<SQLException, Answer> meaning) {
    long end = System.nanoTime() + target.await().toNanos();
    long pause = FIRST_PAUSE_MS;
    boolean announced = false;
    while (true) {
      try {
        return connect(attempt);
      } catch (SQLException e) {
        Answer answer = meaning.apply(e);
        if (answer != Answer.NOT_YET || System.nanoTime() >= end) {
          throw failure(target, shown, e, answer);
        }
        if (!announced) {
          target.onWait().accept(shown + " to answer");
          announced = true;
        }
        sleep(pause);
        pause = Math.min(LONGEST_PAUSE_MS, pause * 2);
      }
    }
  }

  /** Drivers report what is wrong with a URL by exceptions of many kinds. */
  private static <T> T connect(Attempt<T> attempt) throws SQLException {
    try {
      return attempt.connect();
    } catch (LadderException e) {
      throw e;
    } catch (RuntimeException e) {
      throw new SQLException("the url cannot be used: " + e.getMessage(), e);
    }
  }

  private static void sleep(long milliseconds) {
    try {
      Thread.sleep(milliseconds);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new UnreachableException("interrupted while connecting", "", "", e);
    }
  }

  /** A failure to connect as a person can act on it. */
  public static UnreachableException failure(
      Target target, String shown, SQLException e, Answer answer) {
    String name = target.environment().name();
    String where = "environment " + name + ", " + shown;
    String words = target.environment().secrets().mask(words(e));
    return switch (answer) {
      case WRONG_CREDENTIALS ->
          new UnreachableException(
              "the server refuses the user or the password: " + words,
              where,
              "see user: and password: of " + name + " in ladder.yaml, and the variables they name",
              e);
      case NO_DATABASE ->
          new UnreachableException(
              "the server has no such database: " + words,
              where,
              "make it with the server's own tools, or correct the url of " + name,
              e);
      case UNENCRYPTED ->
          new UnreachableException(
              "the server takes no password through a connection that is not encrypted",
              where,
              "add sslMode=verify-full to the parameters of the url of "
                  + name
                  + ", or sslMode=trust where the server's certificate cannot be checked",
              e);
      case NOT_YET ->
          new UnreachableException(
              "the server cannot be reached: " + words,
              where,
              Advice.of(Advice.Code.START_SERVER_OR_AWAIT, name),
              e);
      case OTHER ->
          new UnreachableException(
              "the database cannot be opened: " + words, where, "see the url of " + name, e);
    };
  }

  /**
   * Whether the way to the server failed, and may be open later. A certificate that is wrong or not
   * there stays so.
   */
  public static boolean isOfTheNetwork(SQLException e) {
    boolean network = false;
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof SSLException) {
        return false;
      }
      network |=
          cause instanceof SocketException
              || cause instanceof SocketTimeoutException
              || cause instanceof UnknownHostException
              || cause instanceof EOFException;
    }
    return network;
  }

  private static String words(SQLException e) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof UnknownHostException) {
        return "no such host: " + cause.getMessage();
      }
      if (cause instanceof java.net.ConnectException) {
        return "connection refused";
      }
      if (cause instanceof SocketTimeoutException) {
        return "it accepts connections and does not answer";
      }
    }
    return DatabaseErrors.message(e);
  }
}
