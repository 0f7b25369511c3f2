package org.wornladder.engine;

import java.sql.SQLException;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;

/**
 * Work on a thread of its own while whoever began it does something else. To close it is to wait
 * for its end.
 *
 * @param <T> what it comes to
 */
public final class Meanwhile<T> implements AutoCloseable {
  private final FutureTask<T> work;

  private Meanwhile(Callable<T> work) {
    this.work = new FutureTask<>(work);
  }

  /**
   * Begins.
   *
   * @param name the thread's
   */
  public static <T> Meanwhile<T> begin(String name, Callable<T> work) {
    Meanwhile<T> meanwhile = new Meanwhile<>(work);
    Thread thread = new Thread(meanwhile.work, name);
    thread.setDaemon(true);
    thread.start();
    return meanwhile;
  }

  /**
   * Waits for what it comes to.
   *
   * @throws SQLException if the database refused it, or the wait was interrupted
   */
  public T get() throws SQLException {
    try {
      return work.get();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException known) {
        throw known;
      }
      if (e.getCause() instanceof Error known) {
        throw known;
      }
      throw e.getCause() instanceof SQLException known ? known : new SQLException(e.getCause());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new SQLException("interrupted while the database worked", "57014", e);
    }
  }

  /** Waits for its end; that it failed is for {@link #get} to say. */
  @Override
  public void close() {
    try {
      work.get();
    } catch (ExecutionException e) {
      return;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
