package org.wornladder;

import java.sql.SQLException;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.schema.Snapshot;

/**
 * A model of an application, such as its entity classes, from which tables follow. It need not map
 * everything that a database has.
 */
public interface StructureModel {
  /** What it is, for people. */
  String label();

  /**
   * The structure that follows from it.
   *
   * @param scratch an empty database, in which it may be made to be read as the engine keeps it
   */
  Snapshot structure(EnvironmentContext scratch) throws SQLException;
}
