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
   * Reads nothing: there is nothing to set.
   *
   * @throws IOException always, so that the log manager does not go on to ask who else logs: that
   *     opens a jar, and takes a thirtieth of a short run
   */
  @Override
  public void readConfiguration() throws IOException {
    throw new IOException("nothing is logged");
  }
}
