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
 * @param measured what statements did when the same rungs were rehearsed
 */
public record Preview(
    Plan plan,
    Optional<RefusedException> refusal,
    List<FoundRisk> risks,
    Optional<String> fromTextAlone,
    List<CarriedOut> carriedOut,
    List<Measured> measured) {
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

  /**
   * What a statement did in a rehearsal.
   *
   * @param line in the rung's file
   * @param effects its locks and what it rewrote, in words
   */
  public record Measured(long rung, int line, List<String> effects) {
    public Measured {
      effects = List.copyOf(effects);
    }
  }

  public Preview {
    measured = List.copyOf(measured);
    risks = List.copyOf(risks);
    carriedOut = List.copyOf(carriedOut);
  }

  /** The same with a refusal. */
  public Preview refused(Optional<RefusedException> other) {
    return new Preview(plan, other, risks, fromTextAlone, carriedOut, measured);
  }

  /** One of which no risks are asked for. */
  public Preview(Plan plan, Optional<RefusedException> refusal) {
    this(plan, refusal, List.of(), Optional.empty(), List.of(), List.of());
  }
}
