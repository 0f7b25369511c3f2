package org.wornladder.engine;

import java.sql.SQLException;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.Advice;
import org.wornladder.LockWaitException;

/** Tries to get what one process at a time may have, again and again. */
public final class LockPolling {
  private static final String CHANGING = "another process is changing this database: ";
  private static final long PAUSE_MS = 50;

  private LockPolling() {}

  /** One attempt; empty if somebody else has it. */
  public interface Attempt<T> {
    Optional<T> take() throws SQLException;
  }

  /** Who has it, for people. */
  public interface Holder {
    String name() throws SQLException;
  }

  /**
   * Takes the lock of a database.
   *
   * @param onWait receives once who holds it, if somebody does
   * @throws LockWaitException if it is not had in time
   */
  public static DatabaseLock take(
      Attempt<DatabaseLock> attempt,
      Holder holder,
      String where,
      Duration wait,
      Consumer<String> onWait)
      throws SQLException {
    return take(attempt, holder, () -> CHANGING + holder.name(), where, wait, onWait);
  }

  /**
   * Takes something else.
   *
   * @param busy what the exception says, if it is not had in time
   */
  public static <T> T take(
      Attempt<T> attempt,
      Holder holder,
      Holder busy,
      String where,
      Duration wait,
      Consumer<String> onWait)
      throws SQLException {
    long end = System.nanoTime() + wait.toNanos();
    boolean announced = false;
    while (true) {
      Optional<T> taken = attempt.take();
      if (taken.isPresent()) {
        return taken.get();
      }
      if (System.nanoTime() >= end) {
        throw new LockWaitException(busy.name(), where, Advice.of(Advice.Code.WAIT_LONGER));
      }
      if (!announced) {
        announced = true;
        onWait.accept(holder.name());
      }
      pause(where);
    }
  }

  private static void pause(String where) {
    try {
      Thread.sleep(PAUSE_MS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new LockWaitException("interrupted while waiting for the lock", where, "");
    }
  }
}
