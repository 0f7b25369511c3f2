package org.wornladder.scratch;

import java.util.IdentityHashMap;
import java.util.Map;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.execution.Step;
import org.wornladder.sql.Statement;

/** How long each statement of a run takes: until the next one begins, or its step ends. */
final class StatementTimes implements RunListener {
  private final Map<Statement, Double> millis = new IdentityHashMap<>();
  private Runnable running = () -> {};

  @Override
  public void statementStarted(Step step, Statement statement) {
    running.run();
    long start = System.nanoTime();
    running = () -> millis.put(statement, (System.nanoTime() - start) / 1e6);
  }

  @Override
  public void stepDone(RunResult.Done done, int index) {
    running.run();
    running = () -> {};
  }

  /** Milliseconds; 0 for one that did not run. */
  double of(Statement statement) {
    return millis.getOrDefault(statement, 0.0);
  }
}
