package org.wornladder.service;

import java.util.Optional;
import org.wornladder.AcceptedFileApproval;
import org.wornladder.Approval;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.engine.Access;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ManualResolution.Verdict;
import org.wornladder.execution.PlanningContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;

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
    locked(
        environment,
        listener,
        same -> {
          History history = same.provenHistory();
          approval.check(same.planning(history).empty(), same.environment());
          same.manualResolution().settle(number, verdict, because, history);
          return same;
        });
  }

  /**
   * Takes an edited file as the one that ran, on the record.
   *
   * @param because why, in a person's words
   */
  public void acceptFile(
      Optional<String> environment,
      long number,
      String because,
      Approval approval,
      AcceptedFileApproval fileApproval,
      RunListener listener) {
    locked(
        environment,
        listener,
        same -> {
          PlanningContext basis = same.planning(same.provenHistory());
          approval.check(basis.empty(), same.environment());
          same.manualResolution().acceptFile(number, because, basis, fileApproval);
          return same;
        });
  }

  /**
   * Takes a journal whose hash chain is broken as it is, on the record.
   *
   * @param because why, in a person's words
   * @throws RefusedException if the chain holds
   */
  public void acceptJournal(
      Optional<String> environment, String because, Approval approval, RunListener listener) {
    locked(
        environment,
        listener,
        same -> {
          History history = same.journal().read(Depth.WHOLE);
          approval.check(same.planning(history).empty(), same.environment());
          same.manualResolution().acceptJournal(because, history);
          return same;
        });
  }

  /** Records in an environment's journal that a rung in place there has another number. */
  void renumber(String environment, long number, long newNumber, RunListener listener) {
    locked(
        Optional.of(environment),
        listener,
        same -> {
          same.manualResolution().renumber(number, newNumber, same.provenHistory());
          return same;
        });
  }

  /** Does some work on an environment while nothing else changes its database. */
  private void locked(
      Optional<String> environment,
      RunListener listener,
      ProjectContext.Work<EnvironmentContext> work) {
    project.in(
        environment,
        Access.WRITE,
        context -> context.locked(project.settings(), listener::waiting, work));
  }
}
