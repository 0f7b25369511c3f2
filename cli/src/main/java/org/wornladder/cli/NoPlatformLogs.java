package org.wornladder.cli;

import java.util.ResourceBundle;

/**
 * Lets the platform itself log into nothing. Made by the service loader, which finds this in the
 * first jar: without one it would search them all, which is a tenth of a short run.
 */
public final class NoPlatformLogs extends System.LoggerFinder {
  /** For the service loader. */
  public NoPlatformLogs() {}

  @Override
  public System.Logger getLogger(String name, Module module) {
    return new NoLog(name);
  }

  private record NoLog(String name) implements System.Logger {
    @Override
    public String getName() {
      return name;
    }

    @Override
    public boolean isLoggable(Level level) {
      return false;
    }

    @Override
    public void log(Level level, ResourceBundle bundle, String message, Throwable thrown) {}

    @Override
    public void log(Level level, ResourceBundle bundle, String format, Object... values) {}
  }
}
