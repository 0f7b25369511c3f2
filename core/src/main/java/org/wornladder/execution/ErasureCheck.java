package org.wornladder.execution;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.change.Risk;
import org.wornladder.project.Direction;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;

/** What erases rows of a guarded database must be meant, and the rung itself must say so. */
public record ErasureCheck(Project project) {
  /** The refusal of a plan; empty if it erases nothing that is not meant. */
  public Optional<RefusedException> refusal(Plan plan) {
    List<Refusal> refusals = new ArrayList<>();
    if (plan.guarded() && plan.direction() == Direction.UP) {
      for (Step.OfRung step : plan.rungs()) {
        boolean accepted =
            project
                .rung(step.number())
                .map(Rung::script)
                .filter(script -> script.header().accepts().contains(Risk.Kind.ERASES.label()))
                .isPresent();
        if (!accepted) {
          erased(step).ifPresent(refusals::add);
        }
      }
    }
    return refusals.isEmpty() ? Optional.empty() : Optional.of(new RefusedException(refusals));
  }

  private Optional<Refusal> erased(Step.OfRung step) {
    return StatementRisks.of(step.remaining()).stream()
        .filter(found -> found.risk().kind() == Risk.Kind.ERASES)
        .findFirst()
        .map(
            found ->
                new Refusal(
                    step.label()
                        + " erases, and does not say that it is meant: "
                        + found.risk().subject()
                        + ": "
                        + found.risk().reason(),
                    found.statement().place().toString(),
                    Advice.hint(
                        "write --| accepts: erases, because TEXT above --| up in "
                            + step.source())));
  }
}
