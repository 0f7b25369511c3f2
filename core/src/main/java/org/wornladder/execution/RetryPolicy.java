package org.wornladder.execution;

import org.wornladder.RunListener;
import org.wornladder.engine.Fault;

/**
 * Tries again what could not get what somebody else held, after a pause that doubles.
 *
 * @param retries how often at most; 0 for never
 */
record RetryPolicy(int retries, RunListener listener) {
  private static final long FIRST_PAUSE_MS = 250;
  private static final long LONGEST_PAUSE_MS = 10_000;

  /** Waits and returns true if there is to be another attempt after this one. */
  boolean again(Fault fault, Step step, int attempt) {
    if (fault.kind() != Fault.Kind.BUSY || attempt > retries || listener.wantsStop()) {
      return false;
    }
    long pause = Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS << Math.min(attempt - 1, 10));
    listener.retrying(step, attempt, fault.message());
    try {
      Thread.sleep(pause);
      return true;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
  }
}
