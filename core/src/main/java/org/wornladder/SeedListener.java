package org.wornladder;

/** Receives the progress of seeding, on the thread that works. */
public interface SeedListener {
  SeedListener SILENT = new SeedListener() {};

  /** Somebody else holds the lock; called once. */
  default void waiting(String holder) {}

  /**
   * A file is read.
   *
   * @param bytes how many were read of it
   * @param size how many it has; 0 where rows are made, and {@code bytes} counts them
   */
  default void reading(String label, long bytes, long size) {}

  /**
   * Rows are made up by a guess that does not obey this.
   *
   * @param rule a constraint, as the database prints it
   */
  default void unread(String table, String rule) {}

  /** What was read is now written. */
  default void writing(String label) {}

  /** Asked between rows: whether to end here, with nothing written. */
  default boolean wantsStop() {
    return false;
  }
}
