package org.wornladder.service;

import java.util.Optional;
import org.wornladder.Approval;
import org.wornladder.RunListener;
import org.wornladder.engine.Access;
import org.wornladder.execution.ManualResolution.Verdict;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;

/** Puts a stuck or worn rung right, on the record. */
public record SettleService(ProjectContext project) {
  /**
   * @param because why, in a person's words
   */
  public void settle(
      Optional<String> environment,
      long number,
      Verdict verdict,
      String because,
      Approval approval,
      RunListener listener) {
    project.in(
        environment,
        Access.WRITE,
        context ->
            context.locked(
                project.settings(),
                listener::waiting,
                same -> {
                  History history = same.provenHistory();
                  approval.check(same.planning(history).empty(), same.environment());
                  same.manualResolution().settle(number, verdict, because, history);
                  return same;
                }));
  }

  /** Records in an environment's journal that a rung in place there has another number. */
  void renumber(String environment, long number, long newNumber, RunListener listener) {
    project.in(
        Optional.of(environment),
        Access.WRITE,
        context ->
            context.locked(
                project.settings(),
                listener::waiting,
                same -> {
                  same.manualResolution().renumber(number, newNumber, same.provenHistory());
                  return same;
                }));
  }
}
