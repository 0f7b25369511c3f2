package org.wornladder;

import java.util.List;
import org.wornladder.change.StructureSummary;
import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;

/**
 * What a run did.
 *
 * @param at the highest number now in place; 0 if none is
 * @param structure what changed, measured before and after
 * @param stopped whether it was asked to stop before the plan was done
 */
public record RunResult(
    Plan plan,
    List<Done> done,
    long at,
    long elapsedMs,
    StructureSummary structure,
    boolean stopped) {
  /** What became of a step. */
  public enum Result {
    APPLIED,
    ROLLED_BACK,
    PASSED_OVER,
    STANDING_RUN,
    STANDING_TAKEN_DOWN
  }

  /**
   * A step that is done.
   *
   * @param detail why it was passed over; empty otherwise
   */
  public record Done(Step step, Result result, String detail, long elapsedMs) {
    /** The same with the time that it took, in milliseconds, as the journal has it. */
    public Done took(long milliseconds) {
      return new Done(step, result, detail, milliseconds);
    }
  }

  public RunResult {
    done = List.copyOf(done);
  }

  /** How many rungs ran. */
  public long rungsRun() {
    return done.stream()
        .filter(step -> step.result() == Result.APPLIED || step.result() == Result.ROLLED_BACK)
        .count();
  }
}
