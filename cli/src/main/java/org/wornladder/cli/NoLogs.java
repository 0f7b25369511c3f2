package org.wornladder.cli;

import java.io.IOException;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.logging.LogManager;
import java.util.logging.Logger;

/**
 * Lets libraries that log through {@code java.util.logging} log into nothing. Made by the log
 * manager itself, by its name in {@code java.util.logging.manager}.
 */
public final class NoLogs extends LogManager {
  private final Map<String, Logger> loggers = new ConcurrentHashMap<>();

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

  /** Keeps it, and asks nothing about it: there are no levels, handlers or parents. */
  @Override
  public boolean addLogger(Logger logger) {
    return loggers.putIfAbsent(logger.getName(), logger) == null;
  }

  @Override
  public Logger getLogger(String name) {
    return loggers.get(name);
  }

  /** Nothing was opened that had to be closed at the end. */
  @Override
  public void reset() {}
}
