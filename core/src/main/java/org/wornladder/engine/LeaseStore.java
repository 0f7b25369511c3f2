package org.wornladder.engine;

import java.sql.SQLException;
import java.util.Optional;

/** Where a database keeps who has its lease: one record, which is changed only on a condition. */
public interface LeaseStore extends AutoCloseable {
  /**
   * The record.
   *
   * @param holder empty if the lock is free
   * @param fence how often the lock was taken
   * @param beat grows while the holder lives
   */
  record Lease(String holder, long fence, long beat) {
    public boolean isFree() {
      return holder.isEmpty();
    }
  }

  Lease read() throws SQLException;

  /**
   * Takes the lock, which is free or whose holder is dead, if the record is still as it was.
   *
   * @return whether it was
   */
  boolean take(Lease was, String holder) throws SQLException;

  /**
   * Says that the holder lives, or that something is written while it does.
   *
   * @return whether the fence token is still this one
   */
  boolean beat(long fence) throws SQLException;

  /** Gives the lock back, if the fence token is still this one. */
  void release(long fence) throws SQLException;

  /** Who holds the lock; empty if it is free. */
  default Optional<String> holder() throws SQLException {
    return Optional.of(read().holder()).filter(one -> !one.isEmpty());
  }

  @Override
  void close() throws SQLException;
}
