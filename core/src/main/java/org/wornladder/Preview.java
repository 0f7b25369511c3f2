package org.wornladder;

import java.util.List;
import java.util.Optional;
import org.wornladder.execution.Plan;

/**
 * What apply would do.
 *
 * @param refusal why apply would refuse the plan even if it is confirmed: a guarded database is not
 *     what its history says; empty if it would not
 * @param risks what the waiting rungs may do to rows, to others at work, and to programs
 * @param fromTextAlone why the risks are those that texts show, and structures were not compared;
 *     empty if they were
 * @param carriedOut statements that others make up for
 */
public record Preview(
    Plan plan,
    Optional<RefusedException> refusal,
    List<FoundRisk> risks,
    Optional<String> fromTextAlone,
    List<CarriedOut> carriedOut) {
  /**
   * A statement that the engine lacks, and those that make up for it.
   *
   * @param line in the rung's file
   */
  public record CarriedOut(long rung, int line, List<String> statements) {
    public CarriedOut {
      statements = List.copyOf(statements);
    }
  }

  public Preview {
    risks = List.copyOf(risks);
    carriedOut = List.copyOf(carriedOut);
  }

  /** The same with a refusal. */
  public Preview refused(Optional<RefusedException> other) {
    return new Preview(plan, other, risks, fromTextAlone, carriedOut);
  }

  /** One of which no risks are asked for. */
  public Preview(Plan plan, Optional<RefusedException> refusal) {
    this(plan, refusal, List.of(), Optional.empty(), List.of());
  }
}
