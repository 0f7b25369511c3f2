package org.wornladder.cli;

import java.util.logging.LogManager;

/**
 * Lets libraries that log through {@code java.util.logging} log into nothing. Made by the log
 * manager itself, by its name in {@code java.util.logging.manager}.
 */
public final class NoLogs extends LogManager {
  /** For the log manager. */
  public NoLogs() {}

  /** Reads nothing: there is nothing to set. */
  @Override
  public void readConfiguration() {}
}
