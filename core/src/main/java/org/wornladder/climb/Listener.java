package org.wornladder.climb;

import org.wornladder.sql.Statement;

/** Hears how far a run is. Called on the thread that runs; what it throws ends the run. */
public interface Listener {
  Listener SILENT = new Listener() {};

  /** Somebody else holds the lock; told once. */
  default void waiting(String holder) {}

  default void started(Plan plan) {}

  /**
   * A step begins.
   *
   * @param index counted from 1
   */
  default void stepStarted(Step step, int index) {}

  default void statementStarted(Step step, Statement statement) {}

  default void stepDone(Outcome.Done done, int index) {}

  /** Asked between steps: whether to stop here, with what is done left in place. */
  default boolean wantsStop() {
    return false;
  }
}
