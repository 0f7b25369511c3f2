package org.wornladder.engine;

import java.time.Duration;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;

/**
 * Does something again and again while a statement may run for hours: the one thread that the core
 * starts, since a lease needs a sign of life that no statement holds up.
 */
final class Heartbeat implements AutoCloseable {
  private static final Duration LAST_BEAT = Duration.ofSeconds(5);

  private final ScheduledExecutorService thread;

  /**
   * Begins.
   *
   * @param beat what is done; it throws nothing
   */
  Heartbeat(Runnable beat, Duration every) {
    thread =
        Executors.newSingleThreadScheduledExecutor(
            work -> {
              Thread one = new Thread(work, "ladder-lock-heartbeat");
              one.setDaemon(true);
              return one;
            });
    thread.scheduleWithFixedDelay(beat, every.toMillis(), every.toMillis(), TimeUnit.MILLISECONDS);
  }

  /** Ends, and waits for a beat that is being done. */
  @Override
  public void close() {
    thread.shutdownNow();
    try {
      thread.awaitTermination(LAST_BEAT.toSeconds(), TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
