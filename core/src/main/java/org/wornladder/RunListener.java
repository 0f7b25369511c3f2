package org.wornladder;

import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;
import org.wornladder.sql.Statement;

/** Receives the progress of a run, on the thread that runs; what it throws ends the run. */
public interface RunListener {
  RunListener SILENT = new RunListener() {};

  /** Somebody else holds the lock; called once. */
  default void waiting(String holder) {}

  /** A rebuild has emptied the environment. */
  default void emptied(RebuildLoss loss) {}

  default void started(Plan plan) {}

  /**
   * A step begins.
   *
   * @param index counted from 1
   */
  default void stepStarted(Step step, int index) {}

  default void statementStarted(Step step, Statement statement) {}

  /**
   * A step could not get what somebody else held, and is tried again after a pause.
   *
   * @param attempt which one failed, counted from 1
   * @param words what the database said; may hold what a script holds
   */
  default void retrying(Step step, int attempt, String words) {}

  /**
   * What became of something that was kept aside when a rung ran that is taken back.
   *
   * @param words of one line
   */
  default void broughtBack(String words) {}

  /**
   * A batch of rows is done.
   *
   * @param done how many rows are behind
   * @param total how many there were when it began, or {@code done} if that is more
   */
  default void batchDone(Step step, long done, long total) {}

  default void stepDone(RunResult.Done done, int index) {}

  /** Asked between steps: whether to stop here, with what is done left in place. */
  default boolean wantsStop() {
    return false;
  }
}
