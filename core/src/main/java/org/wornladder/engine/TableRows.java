package org.wornladder.engine;

import java.sql.SQLException;
import org.wornladder.project.RowHasher;

/** Rows of a table, one after the other. */
public interface TableRows extends AutoCloseable {
  /**
   * Gives the next row to a hasher.
   *
   * @return false if there is no other
   */
  boolean next(RowHasher hasher) throws SQLException;

  @Override
  void close() throws SQLException;
}
