package org.wornladder.cli.command;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/**
 * Lets a run that is asked to end (SIGTERM, SIGINT) finish the step it is in. Without it nothing
 * would be lost either; the step would be undone.
 */
final class StopSignal implements AutoCloseable {
  private static final long PATIENCE_SECONDS = 20;

  private final CountDownLatch ended = new CountDownLatch(1);
  private final Thread hook = new Thread(this::waitForEnd, "stop");
  private volatile boolean wanted;
  private volatile boolean running;

  static StopSignal install() {
    StopSignal signal = new StopSignal();
    Runtime.getRuntime().addShutdownHook(signal.hook);
    return signal;
  }

  /** Asked between steps, so that a first question says that steps are running. */
  boolean isWanted() {
    running = true;
    return wanted;
  }

  private void waitForEnd() {
    wanted = true;
    if (!running) {
      return;
    }
    try {
      ended.await(PATIENCE_SECONDS, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  @Override
  public void close() {
    ended.countDown();
    if (!wanted) {
      Runtime.getRuntime().removeShutdownHook(hook);
    }
  }
}
