package org.wornladder.cli;

import java.io.IOException;
import java.util.logging.LogManager;

/**
 * Lets libraries that log through {@code java.util.logging} log into nothing. Made by the log
 * manager itself, by its name in {@code java.util.logging.manager}.
 */
public final class NoLogs extends LogManager {
  /** For the log manager. */
  public NoLogs() {}

  /**
   * Reads nothing.
   *
   * @throws IOException always: after it, the log manager leaves out its search through every jar
   *     for another keeper of logs, which is a tenth of a short run
   */
  @Override
  public void readConfiguration() throws IOException {
    throw new IOException("nothing is logged");
  }
}
