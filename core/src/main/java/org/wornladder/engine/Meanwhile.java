package org.wornladder.engine;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.FutureTask;

/**
 * Work on another thread while whoever began it does something else. To close it is to wait for its
 * end.
 *
 * @param <T> what it comes to
 */
public final class Meanwhile<T> implements AutoCloseable {
  /** Threads that are used again: each new one takes a piece of memory for itself. */
  private static final ExecutorService THREADS = Executors.newCachedThreadPool(Meanwhile::daemon);

  private final Future<T> work;

  private Meanwhile(Future<T> work) {
    this.work = work;
  }

  /** Begins. */
  public static <T> Meanwhile<T> begin(Callable<T> work) {
    return new Meanwhile<>(THREADS.submit(work));
  }

  /** Begins the first of several, and each next one when the one before it is done. */
  public static <T> List<Meanwhile<T>> inTurn(List<Callable<T>> works) {
    List<FutureTask<T>> tasks = new ArrayList<>();
    List<Meanwhile<T>> coming = new ArrayList<>();
    for (Callable<T> work : works) {
      FutureTask<T> task = new FutureTask<>(work);
      tasks.add(task);
      coming.add(new Meanwhile<>(task));
    }
    THREADS.execute(() -> tasks.forEach(FutureTask::run));
    return coming;
  }

  /** Whether it came to its end, good or bad. */
  public boolean isDone() {
    return work.isDone();
  }

  private static Thread daemon(Runnable work) {
    Thread thread = new Thread(work, "meanwhile");
    thread.setDaemon(true);
    return thread;
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
