package org.wornladder.engine;

import java.sql.SQLException;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.Advice;
import org.wornladder.LockWaitException;

/** Tries for a lock again and again. */
public final class LockPolling {
  private static final long PAUSE_MS = 50;

  private LockPolling() {}

  /** One attempt at a lock; empty if somebody else has it. */
  public interface Attempt {
    Optional<DatabaseLock> take() throws SQLException;
  }

  /** Who has it, for people. */
  public interface Holder {
    String name() throws SQLException;
  }

  /**
   * @param onWait told once who holds it, if somebody does
   * @throws LockWaitException if it is not had in time
   */
  public static DatabaseLock take(
      Attempt attempt, Holder holder, String where, Duration wait, Consumer<String> onWait)
      throws SQLException {
    long end = System.nanoTime() + wait.toNanos();
    boolean told = false;
    while (true) {
      Optional<DatabaseLock> lock = attempt.take();
      if (lock.isPresent()) {
        return lock.get();
      }
      if (System.nanoTime() >= end) {
        throw new LockWaitException(
            "another process is changing this database: " + holder.name(),
            where,
            Advice.of(Advice.Code.WAIT_LONGER));
      }
      if (!told) {
        told = true;
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
