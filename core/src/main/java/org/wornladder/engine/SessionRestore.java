package org.wornladder.engine;

import java.sql.SQLException;

/**
 * What is done to a session after some work, however that ended. Closed as a resource, so that a
 * failure of the work is not hidden by one of putting back: a session that is gone refuses both.
 */
@FunctionalInterface
public interface SessionRestore extends AutoCloseable {
  /**
   * @throws SQLException if the database refuses it
   */
  @Override
  void close() throws SQLException;
}
