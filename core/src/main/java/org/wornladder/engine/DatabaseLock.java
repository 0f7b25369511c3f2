package org.wornladder.engine;

/** A lock that is held until it is closed or its process ends. */
public interface DatabaseLock extends AutoCloseable {
  @Override
  void close();
}
