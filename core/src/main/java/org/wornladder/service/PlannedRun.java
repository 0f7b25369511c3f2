package org.wornladder.service;

import java.sql.SQLException;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.Approval;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.change.Difference;
import org.wornladder.change.StructureSummary;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.execution.AroundRung;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ErasureCheck;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.Plan;
import org.wornladder.execution.PlanningContext;
import org.wornladder.execution.PreCommitCheck;
import org.wornladder.execution.Runner;
import org.wornladder.execution.RuntimeSettings;
import org.wornladder.execution.Step;
import org.wornladder.execution.UncertainStatement;
import org.wornladder.execution.UncertainStatementCheck;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Direction;
import org.wornladder.project.Project;

/**
 * What applying and rolling back have in common: plan, check for drift, ask, run, and save what is
 * expected from then on. The caller holds the database's lock.
 */
record PlannedRun(Project project, RuntimeSettings settings) {
  /** Plans from files and journal. */
  interface Planning {
    Plan plan(PlanningContext basis, Map<Long, UncertainStatement> doubts);
  }

  /** What is done beside each rung of a plan; throws to refuse it. */
  interface Beside {
    Beside NOTHING = (plan, history) -> AroundRung.NOTHING;

    AroundRung of(Plan plan, History history) throws SQLException;
  }

  /** A plan, and what stands where it shall run; the latter is not read for a plan of nothing. */
  private record Prospect(Plan plan, Optional<ExpectedState> expectation) {}

  private Prospect prospect(EnvironmentContext context, History history, Planning planning)
      throws SQLException {
    PlanningContext basis = context.planning(history);
    Map<Long, UncertainStatement> doubts = new UncertainStatementCheck(basis).read();
    Plan plan = planning.plan(basis, doubts);
    return new Prospect(
        plan, plan.isEmpty() ? Optional.empty() : Optional.of(ExpectedState.of(context, history)));
  }

  RunResult run(
      EnvironmentContext context,
      Approval approval,
      RunListener listener,
      Optional<String> despiteDrift,
      Planning planning,
      Beside beside)
      throws SQLException {
    History history = context.provenHistory();
    Prospect prospect = prospect(context, history, planning);
    Plan plan = prospect.plan();
    if (plan.isEmpty()) {
      listener.started(plan);
      return outcome(history, plan, List.of(), 0, new StructureSummary(List.of()));
    }
    ExpectedState expectation = prospect.expectation().orElseThrow();
    if (context.environment().settings().guarded() && despiteDrift.isEmpty()) {
      Optional<RefusedException> refusal =
          driftRefusal(context.environment().name(), expectation.visibleDifferences(project));
      if (refusal.isPresent()) {
        throw refusal.get();
      }
    }
    Optional<RefusedException> erasure = new ErasureCheck(project).refusal(plan);
    if (erasure.isPresent()) {
      throw erasure.get();
    }
    AroundRung around = beside.of(plan, history);
    approval.check(plan, context.environment());
    despiteDrift
        .filter(reason -> !reason.isEmpty())
        .ifPresent(reason -> recordDrift(context, reason, expectation.visibleDifferences(project)));
    expectation.saveBefore();
    long start = System.nanoTime();
    Runner runner =
        new Runner(
            context,
            plan,
            listener,
            settings.retries(),
            !context.environment().settings().guarded() && around == AroundRung.NOTHING,
            around);
    PreCommitCheck check = new PreCommitCheck(context, expectation);
    List<RunResult.Done> done = run(runner, check, context, expectation);
    long elapsed = (System.nanoTime() - start) / 1_000_000 - check.millis();
    return outcome(history, plan, done, elapsed, check.save());
  }

  /**
   * A run that fails has changed something too: what is expected follows it. One that left a rung
   * half way has not ended: what a person does to end it counts as its work.
   */
  private static List<RunResult.Done> run(
      Runner runner, PreCommitCheck check, EnvironmentContext context, ExpectedState expectation) {
    try {
      return runner.run(check);
    } catch (LadderException e) {
      try {
        if (context.journal().read(Depth.GLANCE).stuck().isEmpty()) {
          expectation.saveAfter();
        }
      } catch (SQLException | LadderException second) {
        // The next run finds that this one did not come to its end, and makes up for it.
        e.addSuppressed(second);
      }
      throw e;
    }
  }

  private static RunResult outcome(
      History before,
      Plan plan,
      List<RunResult.Done> done,
      long elapsed,
      StructureSummary structure) {
    return new RunResult(
        plan,
        done,
        highest(before, plan, done),
        elapsed,
        structure,
        done.size() < plan.steps().size());
  }

  /** The highest number in place after a run; 0 if none is. */
  private static long highest(History before, Plan plan, List<RunResult.Done> done) {
    Set<Long> inPlace = new HashSet<>();
    before.inPlaceNewestFirst().forEach(rung -> inPlace.add(rung.number()));
    for (RunResult.Done step : done) {
      if (step.step() instanceof Step.OfRung rung) {
        if (plan.direction() == Direction.UP) {
          inPlace.add(rung.number());
        } else {
          inPlace.remove(rung.number());
        }
      }
    }
    return inPlace.isEmpty() ? 0 : Collections.max(inPlace);
  }

  /** The refusal of a run on a guarded database that drifted; empty if it did not. */
  static Optional<RefusedException> driftRefusal(String environment, List<Difference> drift) {
    if (drift.isEmpty()) {
      return Optional.empty();
    }
    Difference first = drift.get(0);
    String more = drift.size() == 1 ? "" : " and " + (drift.size() - 1) + " more";
    return Optional.of(
        RefusedException.of(
            environment + " is not what its history says: " + first.description() + more,
            "environment " + environment,
            Advice.of(Advice.Code.SHOW_DRIFT_OR_GO_ON, environment)));
  }

  private void recordDrift(EnvironmentContext context, String reason, List<Difference> drift) {
    try {
      context.manualResolution().goOnDespite(drift.size(), reason);
    } catch (SQLException e) {
      throw DatabaseErrors.translate(
          context.session(), context.environment().name(), "writing the reason down", e);
    }
  }
}
