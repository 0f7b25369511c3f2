package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.RungRemoval;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;

/** Deletes the file of a rung that nobody has run. */
public record RungRemovalService(ProjectContext context) {
  /**
   * Asks every environment, then deletes the file.
   *
   * @param confirmed environments that cannot be reached and of which a person says that they do
   *     not have the rung
   * @throws RefusedException if one has it, or cannot be reached and is not confirmed
   */
  public RungRemoval remove(long number, Set<String> confirmed) {
    Project project = context.project();
    Rung rung =
        project
            .rung(number)
            .orElseThrow(
                () ->
                    RefusedException.of(
                        "there is no rung " + number, "rungs/", Advice.of(Advice.Code.LIST_RUNGS)));
    List<String> asked = new ArrayList<>();
    List<Refusal> refusals = new ArrayList<>();
    for (String environment : project.settings().environmentNames()) {
      ask(environment, rung, confirmed)
          .ifPresentOrElse(refusals::add, () -> asked.add(environment));
    }
    if (!refusals.isEmpty()) {
      throw new RefusedException(refusals);
    }
    ProjectWriter.delete(project, rung);
    return new RungRemoval(rung.file(), asked);
  }

  private Optional<Refusal> ask(String environment, Rung rung, Set<String> confirmed) {
    String where = "environment " + environment;
    try {
      Optional<RungRecord> record =
          new StatusService(context)
              .history(Optional.of(environment))
              .history()
              .rung(rung.number());
      boolean has =
          record
              .filter(found -> found.isInPlace() || found.state() == RungRecord.State.STUCK)
              .isPresent();
      return has
          ? Optional.of(
              new Refusal(
                  rung.label() + " is in place on " + environment,
                  where,
                  Advice.of(Advice.Code.ROLL_BACK_FIRST, environment)))
          : Optional.empty();
    } catch (LadderException e) {
      return confirmed.contains(environment)
          ? Optional.empty()
          : Optional.of(
              new Refusal(
                  environment + " cannot be asked whether it has " + rung.label() + ": " + e.what(),
                  where,
                  Advice.of(Advice.Code.REACH_OR_CONFIRM, environment)));
    }
  }
}
