package org.wornladder.engine;

/** What a session is for. */
public enum Access {
  /**
   * Nothing is written, nothing is made; a database that is not there yet reads as an empty one.
   */
  READ,
  WRITE
}
